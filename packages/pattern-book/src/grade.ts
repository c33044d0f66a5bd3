/**
 * What may not be graded for people: knots that are unsuitable by rule, whatever their author calls them. What a drawing is counts, not
 * only what it is entered as.
 */
import { slipBights, type Finding, type KnotClass, type KnotDocument, type Match } from '@foxtrail/core';
import { claimOf } from './claim.js';

const REEF =
  'A reef, and whatever looks like one, capsizes when one end is jerked and slips in unlike or wet rope: it is never for life safety.';
const COW = 'A cow hitch slides, and creeps off when its parts are loaded unevenly.';
const NOOSE = 'A loop that tightens closes round a body and does not let go.';
const SLIPPED = 'A slipped form comes undone with one pull, also with one that nobody meant.';
const ADJUSTABLE = 'An adjustable hitch can slide when it is loaded and unloaded in turn.';

/** Patterns by their id, and why each is unsuitable. */
export const UNSUITABLE_FOR_PEOPLE: Readonly<Record<string, string>> = {
  reef: REEF,
  granny: REEF,
  thief: REEF,
  grief: REEF,
  'half-knot': REEF,
  'cow-hitch': COW,
  'sling-hitch': COW,
  'reversed-half-hitches': COW,
  noose: NOOSE,
  'noose-2': NOOSE,
  'noose-3': NOOSE,
  'running-bowline': NOOSE,
  'slip-knot': SLIPPED,
  'quick-release-hitch': SLIPPED,
  'falling-release-hitch': 'It falls open when the load is off, also for a moment.',
  'false-bowline': 'It slips: the first crossing of the bowline is the wrong way.',
  'false-butterfly': 'It holds less than the butterfly and slips when it is loaded crosswise.',
  'two-half-hitches': NOOSE,
  'taut-line-hitch': ADJUSTABLE,
  'reversed-taut-line': ADJUSTABLE,
};

/** What has been computed of a drawing, as far as it is known. */
export interface Computed {
  /** Known knots that it is or is kin to. */
  readonly matches?: readonly Match[] | undefined;
  readonly class?: KnotClass | undefined;
}

/** Whether a slipped knot is tied, in any of its layouts. */
const isSlipped = ({ method }: KnotDocument): boolean =>
  [method, ...(method.relaid ?? [])].some((layout) => slipBights(layout).length > 0);

/** Why a knot is not for people, if a rule says so. */
export function unsuitableReason(knot: KnotDocument, computed: Computed): string | undefined {
  const { entry } = knot;
  if (entry.wrongWayOf !== undefined)
    return `It is a wrong way of the ${entry.wrongWayOf}: it is shown to be known, not to be used.`;
  const ids = [
    ...(computed.matches ?? []).filter((m) => m.relation === 'same' || m.relation === 'mirror').map((m) => m.id),
    claimOf(knot)?.id ?? '',
  ];
  const ruled = ids.find((id) => UNSUITABLE_FOR_PEOPLE[id] !== undefined);
  if (ruled !== undefined) return UNSUITABLE_FOR_PEOPLE[ruled];
  if (computed.class === 'noose' || entry.class === 'noose') return NOOSE;
  return isSlipped(knot) ? SLIPPED : undefined;
}

/** The finding of a knot that is graded for people and must not be. */
export function gradeFinding(knot: KnotDocument, computed: Computed): Finding | undefined {
  if (knot.entry.useGrade !== 'people depend on it') return undefined;
  const why = unsuitableReason(knot, computed);
  return why === undefined
    ? undefined
    : {
        code: 'not-for-people',
        severity: 'error',
        title: 'It is graded for people, and is not suitable for them',
        why,
        remedy: 'Grade it for light duty or load-bearing use in the entry, and teach another knot for people.',
      };
}
