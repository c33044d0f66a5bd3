/**
 * What Settle wants of every run of a strand: how long it is to be, whether it lies straight, goes round another, or follows one. Unit:
 * rope diameters.
 */
import { breadthOf } from '../figure/bounds.js';
import { passagesOf } from '../figure/crossings.js';
import { HOST_SIZE, hostOf, ropeOf, type Figure, type Rope } from '../figure/figure.js';
import { unit } from '../figure/point.js';
import { neighbour, type Line, type Net, type Node } from '../placing/strands.js';
import { isHeldTaut } from '../figure/held-taut.js';
import { wishesFor } from './setting.js';

/** Length of rope between two crossings: room for both gaps and for what is seen between them. */
const BETWEEN = 3;
/** Of a turn's arc beyond what it goes round: so much more than what it lies on is thick. */
const ARC_MORE = 2.9;
/** A strand whose runs are so much longer than those it lies beside goes round them. */
const WINDS = 1.3;
/** Fewest runs in a row that are turns where nothing is loaded. */
const TURNS = 3;
/** A loop that a strand makes over itself. */
const SMALL_LOOP = 8;
/** Between two passages of the strand that turns go round. */
const PITCH = 1.8;

/** Rope from an end to its first crossing, and in a loop that stays. */
const LEAD = 5;
const TAIL = 5;
/** An end that was drawn shorter is drawn out to this share of that. */
const LEAST_END = 0.7;
const EYE = 14;
/** Rope of a loop round a host that a gripping hitch keeps open. */
const LOOP = 13;
/** Strands are doubled that are drawn within this distance of each other along most of a run, in diameters. */
const DOUBLED = { apart: 3.2, cosine: 0.94, share: 0.6 } as const;

/** What a run of a strand between two crossings, or from an end to one, is drawn in to. */
export interface Wish {
  /** It is stretched while it is shorter than this, and drawn in while it is longer. */
  readonly length: number;
  /** An end, or a loop that stays: it keeps its length; any other run is as short as the rest lets it be. */
  readonly firm: boolean;
  /** A loop that stays. */
  readonly loop?: boolean;
  /** Loaded, or what turns go round: it lies straight. */
  readonly straight: boolean;
  /** It goes round another strand: it bends away from the eye, and only the picture is sharp. */
  readonly winds?: boolean;
}

export interface Run {
  readonly line: number;
  /** Places on the line's nodes; of a ring the last may lie beyond its nodes. */
  readonly from: number;
  readonly to: number;
}

/** The runs of every line, in the order of its nodes. Only of a ring that crosses nothing there is none. */
export function runsOf(net: Net): Run[][] {
  return net.lines.map((line, k) => {
    const places = line.nodes.flatMap((id, i) => (net.crossings.has(id) ? [i] : []));
    const bounds = line.closed
      ? [...places, ...places.slice(0, 1).map((p) => p + line.nodes.length)]
      : [...new Set([0, ...places, line.nodes.length - 1])];
    return bounds.slice(1).map((to, r) => ({ line: k, from: bounds[r]!, to }));
  });
}

export const sum = (list: readonly number[]): number => list.reduce((total, v) => total + v, 0);
export const mean = (list: readonly number[]): number => sum(list) / (list.length || 1);

/** Distance of two nodes. */
export const gapOf = (p: Node, q: Node): number => {
  const [x, y] = [q.x - p.x, q.y - p.y];
  return Math.sqrt(x * x + y * y);
};

/** The node at a place of a line, which may run round a ring. */
export const nodeAt = (net: Net, line: Line, i: number): Node => net.nodes[neighbour(line, i)!]!;

export function lengthOfRun(net: Net, { line, from, to }: Run): number {
  const own = net.lines[line]!;
  let length = 0;
  for (let i = from; i < to; i += 1) {
    const [p, q] = [nodeAt(net, own, i), nodeAt(net, own, i + 1)];
    length += gapOf(p, q);
  }
  return length;
}

/** How broad each line is, in diameters. */
export const breadthsOf = (figure: Figure, net: Net): number[] =>
  net.lines.map(({ id }) => {
    const rope = ropeOf(figure, id);
    return rope ? breadthOf(rope) : (hostOf(figure, id)?.size ?? HOST_SIZE);
  });

/** The crossings, or ends, between which a run lies. */
const endsOf = (net: Net, { line, from, to }: Run): [number, number] => [
  neighbour(net.lines[line]!, from)!,
  neighbour(net.lines[line]!, to)!,
];

/** For each run the other one that lies between the same two crossings. */
function partnersOf(net: Net, runs: readonly Run[]): (run: Run) => Run | undefined {
  const known = new Map<string, Run[]>();
  const keyOf = (run: Run): string =>
    endsOf(net, run)
      .sort((a, b) => a - b)
      .join(' ');
  for (const run of runs) known.set(keyOf(run), [...(known.get(keyOf(run)) ?? []), run]);
  return (run) => {
    const [a, b] = endsOf(net, run);
    const lies = a !== b && net.crossings.has(a) && net.crossings.has(b);
    return lies ? known.get(keyOf(run))?.find((other) => other !== run) : undefined;
  };
}

/** How a run lies to the one beside it. */
interface Winding {
  /** How much longer it is, with the runs that follow on. */
  readonly longer: number;
  /** How many follow on. */
  readonly chained: number;
}

/** Runs that follow one another beside the same strand are compared as one: what is longer goes round. */
function windingsOf(net: Net, own: readonly Run[], partner: (run: Run) => Run | undefined): Winding[] {
  const out: Winding[] = [];
  while (out.length < own.length) {
    let [mine, theirs, chained] = [0, 0, 0];
    for (let run = own[out.length]; run; run = own[out.length + chained]) {
      const other = partner(run);
      if (!other) break;
      mine += lengthOfRun(net, run);
      theirs += lengthOfRun(net, other);
      chained += 1;
    }
    for (let k = 0; k < Math.max(1, chained); k += 1) out.push({ longer: theirs === 0 ? 0 : mine / theirs, chained });
  }
  return out;
}

/** The runs of a rope, by their order, in which a loop stays. */
const eyeRunsOf = (figure: Figure, { id, closed, eyes = [] }: Rope, count: number): Set<number> =>
  new Set(
    eyes.map((e) => {
      const before = passagesOf(figure, id).filter((p) => p.at < e).length;
      return closed ? (before + count - 1) % count : before;
    }),
  );

/** What every run is drawn in to, by line and run. */
export function wishesOf(figure: Figure, net: Net): Wish[][] {
  const [runs, breadths] = [runsOf(net), breadthsOf(figure, net)];
  const partner = partnersOf(net, runs.flat());
  const ropes = net.lines.map(({ id }) => {
    const rope = ropeOf(figure, id);
    return rope && !isHeldTaut(rope, figure) ? rope : undefined;
  });
  const onHost = new Set(net.lines.flatMap((l) => (hostOf(figure, l.id) ? l.nodes : [])));
  // What is tied to a host, or is one, is loaded: turns round it are turns, be they ever so few.
  const isLoaded = ropes.map((rope) => !rope || (figure.hosts.length > 0 && rope.ends[0] === 'standing'));
  const grips = wishesFor(figure).loop !== undefined;
  return runs.map((own, line) => {
    const rope = ropes[line];
    if (!rope) return own.map((): Wish => ({ length: 0, firm: false, straight: true }));
    const thick = breadths[line]!;
    const windings = windingsOf(net, own, partner);
    const eyes = eyeRunsOf(figure, rope, own.length);
    const ends = own.map((run) => endsOf(net, run));
    // Up to what it is tied to a standing part runs straight.
    const toHost = rope.closed || rope.ends[0] !== 'standing' ? -1 : ends.findIndex(([, end]) => onHost.has(end));
    // A hitch that grips its own standing part keeps the loop between it and its host.
    const loop = grips ? ends.map(([begin]) => onHost.has(begin)).lastIndexOf(true) : -1;
    const last = own.length - 1;
    const wishOf = (run: Run, r: number): Omit<Wish, 'straight'> & { readonly straight?: boolean } => {
      const [a, b] = ends[r]!;
      if (!rope.closed && (r === 0 || r === last)) {
        const wished = (rope.ends[r === 0 ? 0 : 1] === 'tail' ? TAIL : LEAD) * thick;
        return { length: Math.min(wished, Math.max(lengthOfRun(net, run), LEAST_END * wished)), firm: true };
      }
      if (r === loop) return { length: LOOP * thick, firm: true };
      if (eyes.has(r)) return { length: EYE * thick, firm: true, loop: true };
      if (a === b) return { length: SMALL_LOOP * thick, firm: false };
      const other = partner(run);
      if (!other) return { length: BETWEEN * thick, firm: false };
      const { longer, chained } = windings[r]!;
      const areTurns = chained >= TURNS || isLoaded[line] === true || isLoaded[other.line] === true;
      if (areTurns && longer > WINDS)
        return { length: breadths[other.line]! + ARC_MORE * thick, firm: false, winds: true };
      return areTurns && longer < 1 / WINDS
        ? { length: PITCH * thick, firm: false, straight: true }
        : { length: BETWEEN * thick, firm: false };
    };
    return own.map((run, r): Wish => ({ straight: r <= toHost, ...wishOf(run, r) }));
  });
}

/** More runs than any figure has: a pair of runs as one number. */
const MOST_RUNS = 1 << 16;
export const pairOf = (run: number, other: number): number => run * MOST_RUNS + other;

/** Turns lie as they are wound; what is no rope does not cling. */
const mayCling = ({ winds, length }: Wish): boolean => winds !== true && length > 0;

/** Pairs of runs that are drawn side by side, as one strand that follows another. */
export function doubledRuns(net: Net, wishes: readonly (readonly Wish[])[]): Set<number> {
  const pairs = new Set<number>();
  const own = wishes.flat();
  const sampled = runsOf(net)
    .flat()
    .map(({ line, from, to }) =>
      Array.from({ length: Math.max(0, to - from - 1) }, (_, i) => {
        const [p, c, q] = [0, 1, 2].map((k) => nodeAt(net, net.lines[line]!, from + i + k)) as [Node, Node, Node];
        return { node: c, way: unit([q.x - p.x, q.y - p.y]) };
      }),
    );
  sampled.forEach((run, r) => {
    sampled.forEach((other, o) => {
      if (r === o || !mayCling(own[r]!) || !mayCling(own[o]!)) return;
      const beside = run.filter((n) =>
        other.some(
          (m) =>
            gapOf(m.node, n.node) < DOUBLED.apart &&
            Math.abs(m.way[0] * n.way[0] + m.way[1] * n.way[1]) > DOUBLED.cosine,
        ),
      );
      if (run.length > 1 && beside.length >= DOUBLED.share * run.length) pairs.add(pairOf(r, o));
    });
  });
  return pairs;
}
