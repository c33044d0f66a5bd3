/**
 * Where the places of a form lie on the drawn trail. A rope that is drawn taut runs through its knot, so that what is drawn at a place
 * need not lie there in the end; but each part keeps its place: the lead, the knot, the loop. A part of a form is therefore named evenly
 * between the crossings that bound the part in the drawing.
 */
import { passagesOf } from '../figure/crossings.js';
import { lastAt, ropeOf, type Figure } from '../figure/figure.js';
import { knotBeads, placeOf, type Chain, type Form } from './form.js';
import { lengthOfVector, less } from './vector.js';

/** A bead whose place on the trail is known. */
interface Anchor {
  readonly bead: number;
  readonly at: number;
}

/** Where a chain's parts begin and end, and which places of the drawing those are. Of a ring the places run on over its start. */
function anchorsOf(figure: Figure, chain: Chain): Anchor[] {
  const rope = ropeOf(figure, chain.rope)!;
  const passages = passagesOf(figure, rope.id).map((p) => p.at);
  const n = chain.at.length;
  const round = lastAt(rope);
  const inKnot = new Uint8Array(n);
  for (const i of knotBeads(chain)) inKnot[i] = 1;
  const eyes = [...(rope.eyes ?? [])].sort((a, b) => a - b);
  const pegs = chain.outlets.filter((o) => o.kind === 'eye');
  /** The bead where the knot begins or ends beside a peg. */
  const exit = (from: number, step: 1 | -1): number => {
    for (let i = from, left = n; left > 0; i += step, left -= 1) if (inKnot[((i % n) + n) % n] === 1) return i;
    return from;
  };
  if (chain.closed) {
    const [peg] = pegs;
    if (!peg)
      return [
        { bead: 0, at: 0 },
        { bead: n, at: round },
      ];
    const e = eyes[0]!;
    const after = passages.find((p) => p > e) ?? (passages[0] ?? e) + round;
    const before = (passages.filter((p) => p < e).at(-1) ?? (passages.at(-1) ?? e) - round) + round;
    return [
      { bead: peg.last, at: e },
      { bead: exit(peg.last, 1), at: after },
      { bead: exit(peg.first + n, -1), at: before },
      { bead: peg.first + n, at: e + round },
    ];
  }
  const knot = Array.from({ length: n }, (_, i) => i).filter((i) => inKnot[i] === 1);
  const [first, last] = [knot[0] ?? 0, knot.at(-1) ?? n - 1];
  return [
    { bead: 0, at: 0 },
    { bead: first, at: passages[0] ?? 0 },
    ...pegs.flatMap((peg, k): Anchor[] => {
      const e = eyes[k]!;
      return [
        { bead: Math.max(first, exit(peg.first, -1)), at: passages.filter((p) => p < e).at(-1) ?? e },
        { bead: peg.first, at: e },
        { bead: peg.last, at: e },
        { bead: Math.min(last, exit(peg.last, 1)), at: passages.find((p) => p > e) ?? e },
      ];
    }),
    { bead: last, at: passages.at(-1) ?? round },
    { bead: n - 1, at: round },
  ];
}

function named(figure: Figure, chain: Chain): Chain {
  const rope = ropeOf(figure, chain.rope);
  if (!rope) return chain;
  const n = chain.at.length;
  const at = chain.at.slice();
  const anchors = anchorsOf(figure, chain).filter((a, k, all) => k === 0 || a.bead > all[k - 1]!.bead);
  const place = (i: number): number => ((i % n) + n) % n;
  for (let k = 0; k + 1 < anchors.length; k += 1) {
    const [p, q] = [anchors[k]!, anchors[k + 1]!];
    const along = [0];
    for (let i = p.bead; i < q.bead; i += 1)
      along.push(along.at(-1)! + lengthOfVector(less(placeOf(chain.x, place(i + 1)), placeOf(chain.x, place(i)))));
    const length = along.at(-1)! || 1;
    along.forEach((s, m) => {
      const name = p.at + (s / length) * (q.at - p.at);
      if (p.bead + m < n || chain.closed) at[place(p.bead + m)] = chain.closed ? name % lastAt(rope) : name;
    });
  }
  return { ...chain, at };
}

/** A form whose places are named after the drawing's. */
export const onTrail = <F extends Form>(figure: Figure, form: F): F => ({
  ...form,
  chains: form.chains.map((c) => named(figure, c)),
});
