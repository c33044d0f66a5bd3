/**
 * The move in hand: which one, how its part is passed first, which way along it, how many turns, and the place that is meant. A press
 * on the part lays it; while a pointer is over the board it is shown as it would be.
 */
import { computed, inject, Injectable, signal } from '@angular/core';
import {
  atLength,
  curveOf,
  lengthOf,
  lengthTo,
  nearestOn,
  ropeOf,
  hostOf,
  type Edit,
  type HandMove,
  type HandMoveKind,
  type Letter,
  type Point,
  type Result,
  type TrailPosition,
} from '@foxtrail/core';
import { moveEdit, slingEdit } from '@foxtrail/core/moves';
import type { Option } from './choice-row';
import { DraftState } from './draft-state';
import { placeAt } from './strand-at';

/** A move of the end, or a sling laid at once. */
export type MoveInHand = HandMoveKind | 'sling';

/** The moves in the order of their keys, 1 and on. */
export const HAND_MOVES = [
  { kind: 'hitch', name: 'Half hitch', says: 'Press on what it goes round.' },
  { kind: 'turns', name: 'Turns', says: 'Press on what they go round, where they begin.' },
  { kind: 'overhand', name: 'Overhand round', says: 'Press on the part that it is tied round, where it begins.' },
  { kind: 'through', name: 'Tuck through', says: 'Press within the loop or bight that the end goes through.' },
  { kind: 'loop', name: 'Loop', says: 'Press on the rope’s own part where the loop closes.' },
  { kind: 'follow', name: 'Follow', says: 'Press on the rope that the end follows, beside it all the way.' },
  {
    kind: 'sling',
    name: 'Sling round',
    says: 'Press on what a sling’s bight goes round and through itself: a rope of its own.',
  },
] as const satisfies readonly { kind: MoveInHand; name: string; says: string }[];

interface Ways {
  readonly label: string;
  readonly says: string;
  readonly options: readonly Option<1 | -1>[];
}
const ways = (label: string, says: string, one: string, other: string): Ways => ({
  label,
  says,
  options: [
    { value: 1, name: one },
    { value: -1, name: other },
  ],
});
const ALONG = ways('Way', 'Way along the part', 'along', 'back');
const WAYS: Partial<Record<MoveInHand, Ways>> = {
  turns: ALONG,
  overhand: ALONG,
  loop: ways('Round', 'Side on which the loop lies', 'by the right', 'by the left'),
  sling: ways('Legs', 'Side on which its legs leave', 'right', 'left'),
};

/** The pointer rests so long before a move is shown as it would be, in milliseconds. */
const REST = 120;
/** The end itself, so far back, is no part to go round. */
const OWN_END = 3;

@Injectable()
export class MoveTool {
  private readonly state = inject(DraftState);

  readonly kind = signal<MoveInHand>('hitch');
  readonly first = signal<Letter>('O');
  readonly way = signal<1 | -1>(1);
  readonly turns = signal(2);
  /** The place on a part that is meant; of a tuck, the place between strands. */
  readonly about = signal<TrailPosition | null>(null);
  readonly place = signal<Point | null>(null);
  /** The pointer is over the board: what is shown was not asked for yet. */
  readonly hovering = signal(false);
  private resting: ReturnType<typeof setTimeout> | undefined;

  readonly hasTurns = computed(() => ['turns', 'overhand', 'sling'].includes(this.kind()));
  /** The two ways that the move in hand can go, where it has them. */
  readonly ways = computed<Ways | undefined>(() => WAYS[this.kind()]);
  readonly says = computed(() => HAND_MOVES.find((m) => m.kind === this.kind())?.says ?? '');
  private readonly figure = this.state.figureLaid;
  private readonly part = computed(() => {
    const about = this.about();
    return about && (ropeOf(this.figure(), about.strand) ?? hostOf(this.figure(), about.strand));
  });
  /** How far along its part the place lies, and how long that is, in diameters. */
  readonly along = computed(() => {
    const [part, about] = [this.part(), this.about()];
    return part && about ? Math.round(2 * lengthTo(curveOf(part), about.at)) / 2 : 0;
  });
  readonly length = computed(() => {
    const part = this.part();
    return part ? Math.floor(lengthOf(curveOf(part))) : 0;
  });

  private readonly asked = computed<HandMove | undefined>(() => {
    const rope = this.state.activeRopeLaid();
    const [kind, about, place] = [this.kind(), this.about(), this.place()];
    if (!rope || kind === 'sling') return undefined;
    const common = { rope: rope.id, first: this.first(), way: this.way() };
    if (kind === 'through') return place ? { ...common, kind, place } : undefined;
    if (!about) return undefined;
    return kind === 'turns' || kind === 'overhand'
      ? { ...common, kind, about, turns: kind === 'overhand' ? Math.max(1, Math.round(this.turns())) : this.turns() }
      : { ...common, kind, about };
  });
  /** The edit that makes the move, or why it cannot be made. */
  readonly edit = computed<Result<Edit> | undefined>(() => {
    const [asked, about] = [this.asked(), this.about()];
    if (this.kind() === 'sling')
      return about
        ? slingEdit(this.figure(), { about, way: this.way(), turns: Math.max(1, Math.round(this.turns())) })
        : undefined;
    return asked && moveEdit(this.figure(), asked, this.state.leads());
  });

  take(kind: MoveInHand): void {
    this.letGo();
    this.kind.set(kind);
    this.first.set(kind === 'through' ? 'U' : 'O');
  }

  /** Nothing is meant any more. */
  letGo(): void {
    clearTimeout(this.resting);
    this.about.set(null);
    this.place.set(null);
    this.hovering.set(false);
  }

  /** What a place on the board means; tells whether it means anything. */
  point(at: Point): boolean {
    clearTimeout(this.resting);
    this.hovering.set(false);
    if (this.kind() === 'through') {
      this.place.set(at);
      return true;
    }
    this.about.set(this.nearest(at) ?? null);
    return this.about() !== null;
  }

  /** The pointer is over a place: once it rests there, the move is shown as it would be. */
  hover(at: Point): void {
    clearTimeout(this.resting);
    this.resting = setTimeout(() => {
      this.point(at);
      this.hovering.set(true);
    }, REST);
  }

  /** A part chosen by name: where it is nearest to the end. */
  choose(strand: string): void {
    const part = ropeOf(this.figure(), strand) ?? hostOf(this.figure(), strand);
    const tip = this.state.tip();
    if (!part || !tip) return;
    this.hovering.set(false);
    const curve = curveOf(part);
    const own = part.id === this.state.activeRopeLaid()?.id;
    const at = own ? atLength(curve, lengthOf(curve) / 2) : nearestOn(curve, tip).at;
    this.about.set({ strand, at });
  }

  /** The place moved along its part, to so many diameters from where it begins. */
  putAt(length: number): void {
    const [part, about] = [this.part(), this.about()];
    if (part && about) this.about.set({ ...about, at: atLength(curveOf(part), length) });
  }

  /** The place on a strand or host that a press means. Of the rope in hand its end itself is none. */
  private nearest(at: Point): TrailPosition | undefined {
    const own = this.state.activeRopeLaid();
    return placeAt(this.figure(), at, {
      isPart: (place) => {
        if (place.strand !== own?.id || this.kind() === 'sling') return true;
        const curve = curveOf(own);
        const along = lengthTo(curve, place.at);
        return (this.state.leads() === 'first' ? along : lengthOf(curve) - along) >= OWN_END;
      },
    });
  }
}
