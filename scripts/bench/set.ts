/** Measurements of setting: ideal knots against their known lengths, every pattern of the book, and a large drawing; the same drawings settled. */
import {
  crossingsOf,
  setForm,
  settle,
  tighten,
  type Chain,
  type Figure,
  type SetForm,
} from '../../packages/core/src/index.js';
import { lift } from '../../packages/core/src/form/index.js';
import { asTightAsItGoes, figureEightRing, hopfLink, torusKnot } from '../../packages/core/spec/support/ideal.js';
import { patterns } from '../../packages/pattern-book/src/index.js';
import { springWith } from './identity.js';
import { round } from './measure.js';

/** Lengths over diameter: see the spec of ideal knots for where they are from. */
const IDEAL: readonly (readonly [string, () => Figure, number])[] = [
  ['Hopf link', hopfLink, 4 * Math.PI],
  ['trefoil', () => torusKnot(2, 3), 16.37],
  ['figure eight', figureEightRing, 21.04],
  ['cinquefoil', () => torusKnot(2, 5), 23.6],
];

const lengthOf = ({ x, at }: Chain): number =>
  Array.from(at).reduce((sum, _, i) => {
    const j = (i + 1) % at.length;
    return sum + Math.hypot(x[3 * i]! - x[3 * j]!, x[3 * i + 1]! - x[3 * j + 1]!, x[3 * i + 2]! - x[3 * j + 2]!);
  }, 0);

function ideal(figure: Figure, known: number, spacing: number): object {
  const lifted = lift(figure);
  if (!lifted.ok) throw new Error(lifted.reason);
  const began = performance.now();
  const work = tighten(lifted.value, asTightAsItGoes(spacing));
  let step = work.next();
  while (step.done !== true) step = work.next();
  const length = step.value.reduce((sum, c) => sum + lengthOf(c), 0);
  return {
    known,
    found: round(length),
    percentOff: round(100 * (length / known - 1)),
    ms: round(performance.now() - began),
  };
}

function timedSet(figure: Figure): {
  readonly ms: number;
  readonly form: SetForm | undefined;
  readonly reason: string;
} {
  const began = performance.now();
  const work = setForm(figure);
  let step = work.next();
  while (step.done !== true) step = work.next();
  const done = step.value;
  return {
    ms: round(performance.now() - began),
    form: done.ok ? done.value : undefined,
    reason: done.ok ? '' : done.reason,
  };
}

export function setBench(): object {
  const book = patterns().map(({ id, knot }) => ({ id, ...timedSet(knot.method.figure) }));
  const times = book.map((p) => p.ms).sort((a, b) => a - b);
  const large = [20, 60].map((n) => {
    const gc = (globalThis as { gc?: () => void }).gc;
    gc?.();
    const before = process.memoryUsage().heapUsed;
    const { ms, reason } = timedSet(springWith(n));
    return { crossings: n, ms, reason, megabytes: round((process.memoryUsage().heapUsed - before) / 1e6) };
  });
  const settled = [
    ...patterns().map(({ id, knot }) => [id, knot.method.figure] as const),
    ...[20, 60].map((n) => [`spring of ${n}`, springWith(n)] as const),
  ].map(([name, figure]) => {
    const began = performance.now();
    const { ok } = settle(figure);
    return { name, crossings: crossingsOf(figure).length, ms: round(performance.now() - began), ok };
  });
  return {
    settled,
    ideal: Object.fromEntries(IDEAL.map(([name, figure, known]) => [name, ideal(figure(), known, 0.2)])),
    patterns: {
      median: times[times.length >> 1],
      slowest: times.at(-1),
      refused: book.filter((p) => !p.form).map((p) => p.id),
      ms: Object.fromEntries(book.map((p) => [p.id, p.ms])),
    },
    large,
  };
}
