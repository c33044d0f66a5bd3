/**
 * How the knots of the book come from each other. Most of it is proved by the core; what it leaves open is judged, and says by what.
 */
import { kinKnot, type KinKind, type KinKnot } from '@foxtrail/core';
import { patternOf } from './laid.js';

export interface BookKin {
  /** Patterns by their id; the second is made of the first. */
  readonly from: string;
  readonly to: string;
  readonly kind: KinKind;
  /** Why it is held to be so, where the drawings do not prove it. */
  readonly judged?: string;
}

export const BOOK_KIN: readonly BookKin[] = [
  { from: 'overhand', to: 'double-overhand', kind: 'one more turn' },
  { from: 'double-overhand', to: 'triple-overhand', kind: 'one more turn' },
  { from: 'noose', to: 'noose-2', kind: 'one more turn' },
  { from: 'noose-2', to: 'noose-3', kind: 'one more turn' },
  { from: 'figure-eight', to: 'stevedore', kind: 'one more turn' },
  { from: 'sheet-bend', to: 'double-sheet-bend', kind: 'one more turn' },
  { from: 'double-sheet-bend', to: 'triple-sheet-bend', kind: 'one more turn' },
  { from: 'two-half-hitches', to: 'round-turn-two-half-hitches', kind: 'one more turn' },
  { from: 'two-half-hitches', to: 'taut-line-hitch', kind: 'one more turn' },
  { from: 'reversed-half-hitches', to: 'reversed-taut-line', kind: 'one more turn' },
  { from: 'clove-hitch', to: 'rolling-hitch', kind: 'one more turn' },
  { from: 'overhand', to: 'water-knot', kind: 'followed' },
  { from: 'figure-eight', to: 'followed-eight', kind: 'followed' },
  { from: 'figure-eight', to: 'eight-on-the-bight', kind: 'doubled on the bight' },
  { from: 'overhand', to: 'overhand-loop', kind: 'doubled on the bight' },
  { from: 'figure-eight', to: 'eight-bend', kind: 'followed' },
  { from: 'half-hitch', to: 'clove-hitch', kind: 'made into' },
  { from: 'half-hitch', to: 'two-half-hitches', kind: 'made into' },
  {
    from: 'clove-hitch',
    to: 'clove-hitch-carabiner',
    kind: 'made into',
    judged: 'The same two loops, dropped on a carabiner: both parts hang down.',
  },
  { from: 'cow-hitch', to: 'cow-hitch-ring', kind: 'made into', judged: 'The same bight, round a ring.' },
  { from: 'clove-hitch', to: 'clove-hitch-backed', kind: 'made into', judged: 'Its end makes a half hitch more.' },
  { from: 'sling-hitch', to: 'prusik-2', kind: 'made into', judged: 'Each of its two coils has one wrap more.' },
  {
    from: 'cow-hitch',
    to: 'sling-hitch',
    kind: 'made into',
    judged: 'The same two turns, laid with the bight of a sling.',
  },
  { from: 'prusik-2', to: 'prusik', kind: 'made into', judged: 'Each of its two coils has one wrap more.' },
  { from: 'prusik', to: 'prusik-4', kind: 'made into', judged: 'Each of its two coils has one wrap more.' },
  {
    from: 'fishermans',
    to: 'double-fishermans',
    kind: 'made into',
    judged: 'Each of its two halves has one turn more.',
  },
  {
    from: 'double-fishermans',
    to: 'triple-fishermans',
    kind: 'made into',
    judged: 'Each of its two halves has one turn more.',
  },
  { from: 'reef', to: 'slipped-reef', kind: 'slipped' },
  { from: 'sheet-bend', to: 'slipped-sheet-bend', kind: 'slipped' },
  { from: 'bowline-outside', to: 'slipped-bowline', kind: 'slipped' },
  {
    from: 'sheet-bend',
    to: 'becket-hitch',
    kind: 'made into',
    judged: 'The same turns, about an eye that is there already in place of a bight.',
  },
  {
    from: 'double-overhand',
    to: 'sliding-stopper',
    kind: 'made into',
    judged: 'The same two turns, tied round another rope.',
  },
  {
    from: 'sliding-stopper',
    to: 'double-fishermans',
    kind: 'made into',
    judged: 'Each rope ties one round the other.',
  },
  {
    from: 'half-hitch',
    to: 'falling-release-hitch',
    kind: 'made into',
  },
  {
    from: 'cow-hitch-ring',
    to: 'munter-hitch',
    kind: 'mistaken for',
    judged: 'One crossing apart: the second part over the bight, or under it.',
  },
  { from: 'bowline', to: 'double-nip-bowline', kind: 'one more turn' },
  {
    from: 'overhand',
    to: 'interlocked-overhands',
    kind: 'made into',
    judged: 'An overhand in each rope, one through the other.',
  },
  {
    from: 'interlocked-overhands',
    to: 'interlocked-overhands-mirrored',
    kind: 'mistaken for',
    judged: 'One of its overhands is of the other hand.',
  },
  {
    from: 'cow-hitch',
    to: 'cats-paw',
    kind: 'made into',
    judged: 'Each of its two loops is twisted before it is hung up.',
  },
  {
    from: 'round-turn-two-half-hitches',
    to: 'anchor-hitch',
    kind: 'made into',
    judged: 'The first hitch is tucked under the second turn.',
  },
  {
    from: 'bowline-outside',
    to: 'running-bowline',
    kind: 'made into',
    judged: 'The bowline is tied round its own standing part.',
  },
  {
    from: 'bowline',
    to: 'bowline-on-the-bight',
    kind: 'made into',
    judged: 'The same nipping turn and collar in doubled rope, the bight opened over the whole knot.',
  },
  { from: 'bowline', to: 'bowline-backed', kind: 'made into' },
  { from: 'bowline', to: 'bowline-led-back', kind: 'made into' },
  {
    from: 'bowline',
    to: 'bowline-two-loops',
    kind: 'made into',
    judged: 'The end goes round twice before its collar.',
  },
  {
    from: 'overhand',
    to: 'offset-overhand-bend',
    kind: 'made into',
    judged: 'One overhand, tied in both ropes at once.',
  },
  { from: 'noose', to: 'three-lobed-stopper', kind: 'made into', judged: 'Its loop is closed on its own end.' },
  {
    from: 'timber-hitch',
    to: 'killick-hitch',
    kind: 'made into',
    judged: 'The standing part makes a half hitch more, nearer to the pull.',
  },
  {
    from: 'prusik',
    to: 'one-way-wrap',
    kind: 'mistaken for',
    judged: 'Both legs are wound one way, and it grips one way only.',
  },
  {
    from: 'eight-on-the-bight',
    to: 'eight-two-loops',
    kind: 'made into',
    judged: 'Two bights go through the loop in place of one, and the end of the bight comes to lie over both.',
  },
  {
    from: 'eight-on-the-bight',
    to: 'directional-eight',
    kind: 'made into',
    judged: 'The bight is wound round one of its standing parts alone, the other leaves the other way.',
  },
  {
    from: 'two-half-hitches',
    to: 'many-wrap-hitch',
    kind: 'made into',
    judged: 'The end goes many times round what it is made fast to before it is hitched.',
  },
  {
    from: 'common-whipping',
    to: 'flat-seizing',
    kind: 'made into',
    judged: 'The same turns over the same bight, round two parts in place of one.',
  },
  { from: 'noose', to: 'slip-knot', kind: 'ends exchanged' },
  { from: 'reef', to: 'thief', kind: 'ends exchanged' },
  { from: 'granny', to: 'grief', kind: 'ends exchanged' },
  { from: 'bowline', to: 'sheet-bend', kind: 'same structure' },
  {
    from: 'overhand',
    to: 'figure-eight',
    kind: 'made into',
    judged: 'The end goes half a turn farther round the standing part before it goes through.',
  },
  {
    from: 'overhand',
    to: 'noose',
    kind: 'made into',
    judged: 'The overhand is tied with the end round the standing part instead of in the rope itself.',
  },
  {
    from: 'overhand',
    to: 'fishermans',
    kind: 'made into',
    judged: 'Each end ties the overhand round the other rope.',
  },
  {
    from: 'double-overhand',
    to: 'double-fishermans',
    kind: 'made into',
    judged: 'Each end ties the two-turn overhand round the other rope.',
  },
  { from: 'half-knot', to: 'reef', kind: 'made into' },
  {
    from: 'clove-hitch',
    to: 'two-half-hitches',
    kind: 'made into',
    judged: 'The same two hitches, laid about the rope’s own standing part instead of a spar.',
  },
  {
    from: 'cow-hitch',
    to: 'reversed-half-hitches',
    kind: 'made into',
    judged: 'The same two hitches, laid about the rope’s own standing part instead of a spar.',
  },
  {
    from: 'rolling-hitch',
    to: 'taut-line-hitch',
    kind: 'made into',
    judged: 'The rolling hitch laid about the rope’s own standing part.',
  },
  { from: 'reef', to: 'granny', kind: 'mistaken for', judged: 'Its second half turns the wrong way.' },
  { from: 'bowline', to: 'false-bowline', kind: 'mistaken for' },
  { from: 'bowline', to: 'bowline-outside', kind: 'mistaken for' },
  {
    from: 'butterfly',
    to: 'false-butterfly',
    kind: 'mistaken for',
    judged: 'One wrap of the hand is picked up in the wrong order.',
  },
  { from: 'clove-hitch', to: 'cow-hitch', kind: 'mistaken for', judged: 'The second turn runs the other way round.' },
  {
    from: 'two-half-hitches',
    to: 'reversed-half-hitches',
    kind: 'mistaken for',
    judged: 'The second hitch is turned the other way.',
  },
  {
    from: 'taut-line-hitch',
    to: 'reversed-taut-line',
    kind: 'mistaken for',
    judged: 'The last turn runs the other way.',
  },
];

/** A pattern as far as kinship goes. */
export function patternKin(id: string): KinKnot | undefined {
  const pattern = patternOf(id);
  return pattern && kinKnot(pattern.knot.name, pattern.knot.method);
}
