/**
 * What is shown of a finished knot beside its steps: the marks of its inspection card, the wrong ways that learners are warned of, and what
 * is marked in films of it. All are of one drawing and follow it, place by place, when it is drawn otherwise.
 */
import { crossingsAfter, type CrossingPlace } from '../figure/crossing-place.js';
import type { Figure, TrailPosition } from '../figure/figure.js';
import { mapPosition, type Mapping } from '../figure/mapping.js';
import { refuse, type Refusal } from '../figure/refusal.js';
import { followFootage, footageTrouble, type Footage } from '../footage/frame.js';
import { dressingTrouble, followDressings, type Dressing } from './dressed.js';

/** Most marks on an inspection card: a learner with rope in hand looks for no more. */
export const MARK_LIMIT = 12;
export const EXHIBIT_LIMIT = 8;

/** What a learner looks for on the finished knot. */
export type MarkKind = 'tail' | 'turns' | 'parallel' | 'cross';

/** A mark of the inspection card: what kind it is, the face on which it is seen, and where. Its words are computed from the figure. */
export interface MarkPlace {
  readonly kind: MarkKind;
  readonly side: 'front' | 'back';
  readonly place: TrailPosition;
  /** The other strand of a crossing, or of two that run side by side. */
  readonly beside?: TrailPosition | undefined;
  /** Which tail or turns are meant. */
  readonly of?: string | undefined;
}

/** A wrong way shown to learners: crossings laid the other way, and what that makes of the knot. */
export interface Exhibit {
  readonly crossings: readonly CrossingPlace[];
  /** “False bowline”, “Falls apart”. */
  readonly becomes: string;
  /** The author's own words on how to tell it; absent: the composed ones. */
  readonly tell?: string | undefined;
}

export interface Shown {
  readonly marks?: readonly MarkPlace[] | undefined;
  readonly exhibits?: readonly Exhibit[] | undefined;
  /** The ways in which it is dressed and set, the right one first; absent: as it comes when all is pulled at once. */
  readonly dressings?: readonly Dressing[] | undefined;
  /** Films of it, with what is marked in their frames. */
  readonly footage?: readonly Footage[] | undefined;
}

/** What is shown of a drawing after it was changed; what was at a place that is gone is gone with it. */
export function followShown(
  { marks, exhibits, dressings, footage }: Shown,
  before: Figure,
  after: Figure,
  mapping: Mapping,
): Shown {
  if (!marks && !exhibits && !dressings && !footage) return {};
  const crossing = crossingsAfter(before, after, mapping);
  const along = (p: TrailPosition | undefined): TrailPosition | undefined => p && mapPosition(mapping, p);
  const carryMark = (mark: MarkPlace): MarkPlace[] => {
    const { kind, place, beside } = mark;
    if (kind === 'cross' && beside) {
      const now = crossing({ first: place, second: beside });
      return now ? [{ ...mark, place: now.first, beside: now.second }] : [];
    }
    const [now, other] = [along(place), along(beside)];
    if (!now || (beside && !other)) return [];
    return [{ ...mark, place: now, ...(other ? { beside: other } : {}) }];
  };
  const carryExhibit = (exhibit: Exhibit): Exhibit[] => {
    const crossings = exhibit.crossings.flatMap((c) => crossing(c) ?? []);
    return crossings.length === exhibit.crossings.length ? [{ ...exhibit, crossings }] : [];
  };
  return {
    ...(marks ? { marks: marks.flatMap(carryMark) } : {}),
    ...(exhibits ? { exhibits: exhibits.flatMap(carryExhibit) } : {}),
    ...(dressings ? { dressings: followDressings(dressings, mapping) } : {}),
    ...(footage ? { footage: followFootage(footage, crossing) } : {}),
  };
}

/** Why a drawing cannot show so much. */
export function shownTrouble({ marks, exhibits, dressings, footage }: Shown): Refusal | undefined {
  if ((marks?.length ?? 0) > MARK_LIMIT)
    return refuse(
      'inspection card',
      `A card has ${MARK_LIMIT} marks at most.`,
      'Take one off: with rope in hand nobody looks for more.',
    );
  if ((exhibits?.length ?? 0) > EXHIBIT_LIMIT)
    return refuse('wrong ways', `${EXHIBIT_LIMIT} are shown at most.`, 'Withdraw one first.');
  return (dressings && dressingTrouble(dressings)) ?? (footage && footageTrouble(footage));
}
