/**
 * Where nodes and segments of a net are along their lines, and how far they keep from each other. Unit: rope diameters.
 */
import { neighbour, type Net } from '../placing/strands.js';
import { gapOf, nodeAt, runsOf, type Run } from './settle-wishes.js';

/** Middle to middle of strands that lie beside each other: a rope's thickness and gaps that can be read. */
export const BESIDE = 2.2;
/** Turns keep so much farther from each other, and from what else lies beside them: what they go round is seen between them. */
export const TURNS_MORE = 0.3;
/** Arms of a crossing lie at least so far apart, for each diameter from it: an angle of about fifty degrees. */
const OPEN = 0.95;
/** Places of one strand nearer than this along it keep only so much of that from each other: bends are for that. */
const BEND = { within: 6, share: 0.52, wound: 0.38 } as const;

/** A crossing and where it lies along a strand. */
interface Meet {
  readonly crossing: number;
  readonly along: number;
}
/** Crossings farther than this along the strand have no say in how near two strands may come, in diameters. */
const MEETS = 3.5;

/** A node on a line, or a segment of it. */
interface Place {
  readonly line: number;
  readonly along: number;
  readonly length: number;
  readonly meets: readonly Meet[];
}

/** What only changes when nodes are put in or taken out. */
export interface Mesh {
  readonly runs: readonly (readonly Run[])[];
  readonly segments: readonly (readonly [a: number, b: number])[];
  /** By segment, where it is on its line. */
  readonly stretches: readonly Place[];
  /** By node, where it is on every line that it belongs to. */
  readonly places: readonly (readonly Place[])[];
  /** The run that a node or a segment belongs to, all runs counted; −1 for a crossing. */
  readonly runOfNode: Int32Array;
  readonly runOfSegment: Int32Array;
}

/** Where every node and segment of a net is, for lines of these breadths. */
export function meshOf(net: Net, breadths: readonly number[]): Mesh {
  const segments: [number, number][] = [];
  const stretches: Place[] = [];
  const places: Place[][] = net.nodes.map(() => []);
  net.lines.forEach((line, k) => {
    const n = line.nodes.length;
    const along = [0];
    for (let i = 1; i <= n; i += 1) {
      const [p, q] = [nodeAt(net, line, i - 1), net.nodes[neighbour(line, i) ?? line.nodes[n - 1]!]!];
      along.push(along[i - 1]! + gapOf(p, q));
    }
    const whole = along[n]!;
    const reach = MEETS * breadths[k]!;
    const crossings = line.nodes.flatMap((id, i) => (net.crossings.has(id) ? [{ id, at: along[i]! }] : []));
    const placeAt = (at: number, length = 0): Place => ({
      line: k,
      along: at,
      length,
      meets: crossings.flatMap(({ id, at: there }) =>
        (line.closed ? [there - whole, there, there + whole] : [there])
          .filter((c) => c > at - reach && c < at + length + reach)
          .map((c) => ({ crossing: id, along: c })),
      ),
    });
    line.nodes.forEach((id, i) => {
      places[id]!.push(placeAt(along[i]!));
      const next = neighbour(line, i + 1);
      if (next === undefined || (!line.closed && i + 1 >= n)) return;
      segments.push([id, next]);
      stretches.push(placeAt(along[i]!, along[i + 1]! - along[i]!));
    });
  });
  const runs = runsOf(net);
  const runOfNode = new Int32Array(net.nodes.length).fill(-1);
  const runOfSegment = new Int32Array(segments.length);
  const segmentAt = new Map(segments.map(([p, q], s) => [p * net.nodes.length + q, s]));
  runs.flat().forEach(({ line, from, to }, r) => {
    for (let i = from; i < to; i += 1) {
      const [p, q] = [neighbour(net.lines[line]!, i)!, neighbour(net.lines[line]!, i + 1)!];
      if (i > from) runOfNode[p] = r;
      runOfSegment[segmentAt.get(p * net.nodes.length + q)!] = r;
    }
  });
  return { runs, segments, stretches, places, runOfNode, runOfSegment };
}

/** How far a node and a place on a segment, at a share of its length, keep from each other; `wound`: one of them is of a turn. */
export function apart(
  breadths: readonly number[],
  own: readonly Place[],
  other: Place,
  share: number,
  wound: boolean,
): number {
  const along = other.along + share * other.length;
  let least = Infinity;
  for (const p of own) {
    const more = (breadths[p.line]! + breadths[other.line]!) / 2 - 1;
    let wanted = BESIDE + more + (wound ? TURNS_MORE : 0);
    if (p.line === other.line) {
      const between = Math.abs(p.along - along);
      if (between < BEND.within) wanted = Math.min(wanted, (wound ? BEND.wound : BEND.share) * between);
    }
    for (const m of p.meets)
      for (const n of other.meets)
        if (m.crossing === n.crossing)
          wanted = Math.min(wanted, OPEN * Math.max(Math.abs(m.along - p.along), Math.abs(n.along - along)));
    least = Math.min(least, wanted);
  }
  return least;
}
