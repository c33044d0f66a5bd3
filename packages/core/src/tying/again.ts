/**
 * Steps that do again what an earlier one did: whether they do.
 */
import type { Vocabulary } from '../words/vocabulary.js';
import { composeStretch } from './compose.js';
import { passesOf } from './move.js';
import { stepsOf, type Again, type Method, type Step } from './method.js';

/** The earlier step that a step repeats, if it says that it repeats one. */
export function repeatedBy(
  method: Method,
  index: number,
): { readonly step: Step; readonly way: Again['way'] } | undefined {
  const steps = stepsOf(method);
  const step = steps[index];
  const again = step?.stretch && step.of.halts[step.stretch.index]?.again;
  const earlier = again && steps.find((s) => s.layout === step.layout && s.stretch?.index === again.of);
  return earlier && { step: earlier, way: again.way };
}

/** Why a step is not what it says it repeats: it passes otherwise. Seen from the other side, over may be under all along. */
export function againTrouble(
  method: Method,
  index: number,
  words: Vocabulary,
): { readonly of: number; readonly reason: string } | undefined {
  const repeated = repeatedBy(method, index);
  const step = stepsOf(method)[index];
  if (!repeated || !step?.stretch || !repeated.step.stretch) return undefined;
  const passes = ({ of, stretch }: Step): string => (stretch ? passesOf(composeStretch(of, stretch, words).moves) : '');
  const [now, then] = [passes(step), passes(repeated.step)];
  const turned = now.replace(/[OU]/g, (c) => (c === 'O' ? 'U' : 'O'));
  if (now === then || (repeated.way === 'from the other side' && turned === then)) return undefined;
  const say = (run: string): string =>
    run === ''
      ? 'passes nothing'
      : `passes ${run
          .split('')
          .map((c) => (c === 'O' ? 'over' : 'under'))
          .join(', ')}`;
  return { of: repeated.step.index, reason: `Step ${repeated.step.index + 1} ${say(then)}; this one ${say(now)}.` };
}
