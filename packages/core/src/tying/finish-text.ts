/**
 * What a step says that finishes the knot: how it is dressed and drawn tight, by the moves that it is made of.
 */
import type { Figure, Rope } from '../figure/figure.js';
import { ropeOf } from '../figure/figure.js';
import { capital, inflect } from '../words/inflect.js';
import type { Vocabulary } from '../words/vocabulary.js';
import { isLed, layoutsOf, stretchesOf, type Method, type Step } from './method.js';
import type { Move } from './move.js';
import { movesIn } from './moves.js';

/** How a knot is dressed, set or checked, as far as its drawing tells. */
export function finishText(method: Method, step: Step, words: Vocabulary): string {
  const { figure } = step.of;
  const tails = figure.ropes.filter((r) => !r.closed).flatMap((r) => r.ends.filter((e) => e === 'tail')).length;
  const moves = layoutsOf(method).flatMap((l) => stretchesOf(l).flatMap((s) => movesIn(l, s)));
  const doubled = layoutsOf(method).some((l) =>
    l.leaders.some((x) => x.kind === 'bight' && isLed([x], ropeOf(l.figure, x.rope) as Rope)),
  );
  return {
    lay: '',
    dress: `${capital(words.dress)} the knot: ${dressing(moves, doubled, words)}.`,
    set: `${capital(words.set)} the knot: ${setting(figure, moves, tails, words)}.`,
    check: `Check the knot, front and back${tails === 0 ? '' : tails === 1 ? `, and that the ${words.tail} is long enough` : `, and that each ${words.tail} is long enough`}.`,
  }[step.does];
}

/** What is to be seen to when a knot of these moves is dressed; two things at most. */
function dressing(moves: readonly Move[], doubled: boolean, words: Vocabulary): string {
  const strands = inflect(words.strand, 'part of a rope', 'plural');
  const turns = inflect(words.turn, 'shape', 'plural');
  const count = (of: (m: Move) => boolean): number => moves.filter(of).length;
  const coiled = moves.some(
    (m) =>
      (m.kind === 'turns' && m.passes >= 4) ||
      (m.kind === 'through' && m.times > 1) ||
      (m.kind === 'hitch' && m.turns > 1),
  );
  // A turn that goes across an earlier one lies upon it.
  const rides = moves.some(
    (m, i) =>
      (m.kind === 'pass' && m.over && m.what.kind === 'turn' && i < moves.length - 1) ||
      (m.kind === 'turns' && m.what.length === 1 && m.what[0]?.kind === 'standing' && m.ways.length > m.passes),
  );
  const all = [
    doubled || moves.some((m) => m.kind === 'follow')
      ? `lay the doubled ${strands} side by side all the way, neither across the other`
      : '',
    coiled || count((m) => m.kind === 'turns' && m.what[0]?.kind === 'host') > 1
      ? `lay the ${turns} close ${rides ? 'together' : 'beside each other, none upon another'}`
      : '',
    count((m) => m.kind === 'hitch' && m.what.length === 1) > 1 ? 'push the half hitches close together' : '',
    count((m) => m.kind === 'hitch' && m.what.length > 1) > 1 ? 'slide the two knots together' : '',
    moves.some((m, i) => m.kind === 'round' && moves[i + 1]?.kind === 'through' && moves[i - 1]?.kind === 'through')
      ? `draw the ${words.collar} snug round the ${words.standingPart}`
      : '',
    moves.some((m) => m.kind === 'trap' && m.what.kind === 'bight')
      ? `draw the ${words.turn} snug about the ${words.bight}`
      : moves.some((m) => m.kind === 'legs')
        ? `work the two ${inflect(words.bight, 'shape', 'plural')} snug into each other`
        : '',
  ].filter((said) => said !== '');
  return all.length > 0
    ? all.slice(0, 2).join(', and ')
    : `work it into the shape shown, with no ${words.strand} crossed for nothing`;
}

/** In which order a knot is drawn tight. */
function setting(figure: Figure, moves: readonly Move[], tails: number, words: Vocabulary): string {
  const tail = tails > 0 ? `the ${words.tail}` : '';
  const grips = moves.some(
    (m) => m.kind === 'turns' && (m.what[0]?.kind === 'rope' || m.loop === 'inside') && m.passes >= 4,
  );
  if (grips) return `draw the ${inflect(words.turn, 'shape', 'plural')} tight by hand before any load comes on it`;
  const hasEye = figure.ropes.some((r) => (r.eyes ?? []).length > 0);
  if (figure.ropes.length > 1) return 'draw every end tight in turn';
  if (tail === '')
    return `draw both ${inflect(words.standingPart, 'part of a rope', 'plural')}${hasEye ? ` and the ${words.eye}` : ''} tight in turn`;
  // Turns about the legs of its own loop: the loop is to run.
  if (moves.some((m) => (m.kind === 'hitch' || m.kind === 'turns') && m.what.some((w) => w.own && w.kind === 'loop')))
    return `draw ${tail} tight, and see that the ${words.loop} runs`;
  if (figure.hosts.length > 0) return `draw ${tail} snug, then load the ${words.standingPart}`;
  if (hasEye) return `hold the ${words.eye} and draw the ${words.standingPart} tight, then ${tail}`;
  return `draw the ${words.standingPart} and ${tail} tight in turn`;
}
