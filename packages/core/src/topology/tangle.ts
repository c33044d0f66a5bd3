/**
 * From a figure on the bench to a tangle in a disc: fixed ends are tied to the rim, free tails are lifted over or under
 * everything to the rim beside their own standing end, and eyes are cut.
 *
 * A lift is combinatorial: it walks from face to face and passes over (or under) each edge it crosses.
 */
import { TooWide } from './laurent.js';
import { hostIsClosed, lastAt, type Figure, type Rope } from '../figure/figure.js';
import type { Point } from '../figure/point.js';
import type { CrossingEdges } from './bracket.js';
import { planarMap, traceFaces, type MapEdge, type PlanarMap } from './planar-map.js';
import { labelOf, roleOf, ropeEnds, type EndRole, type RimEnd } from './rim-end.js';

export type LiftSide = 'over' | 'under';

export interface RimPoint {
  readonly end: RimEnd;
  /** The end as one word: see `labelOf`. */
  readonly label: string;
  readonly role: EndRole;
  readonly edge: number;
  /** +1 when the strand's direction of travel enters the disc here, −1 when it leaves. */
  readonly enters: 1 | -1;
  readonly strand: number;
}

export interface TangleCrossing {
  readonly edges: CrossingEdges;
  readonly sign: 1 | -1;
  readonly over: number;
  readonly under: number;
}

export interface Tangle {
  readonly crossings: readonly TangleCrossing[];
  /** Counterclockwise as seen on the screen, from the first standing end. */
  readonly rim: readonly RimPoint[];
  /** Rim edges that cross nothing, joining two rim points. */
  readonly direct: readonly (readonly [number, number])[];
  readonly freeLoops: number;
  /** Free tails that were lifted, and how. */
  readonly lifts: ReadonlyMap<string, LiftSide>;
  /** Fixed ends that did not lie at the outside of the drawing and were lifted over what lay between. */
  readonly buried: readonly RimEnd[];
}

interface Vertex {
  darts: number[];
  kind: 'crossing' | 'end' | 'rim';
  /** Index parity of the under strand's darts in `darts`. */
  underParity?: 0 | 1;
  end?: RimEnd;
}

/** A rotation system that lifts can change. */
class RotationSystem {
  readonly vertices: Vertex[] = [];
  readonly origin: number[] = [];
  readonly strand: number[] = [];
  readonly isRim: boolean[] = [];

  addEdge(u: number, v: number, strand: number, isRim = false): number {
    const e = this.strand.length;
    this.origin.push(u, v);
    this.strand.push(strand);
    this.isRim.push(isRim);
    return e;
  }

  faces(): { cycles: number[][]; faceOf: number[] } {
    return traceFaces(
      this.origin,
      this.vertices.map((v) => v.darts),
    );
  }

  /** Puts a new vertex into the edge of `dart`, which keeps its first half; returns the dart that goes on from the vertex. */
  private split(dart: number, vertex: number): number {
    const far = this.origin[dart ^ 1] as number;
    const forward = (dart & 1) === 0;
    const e = forward
      ? this.addEdge(vertex, far, this.strand[dart >> 1] as number, this.isRim[dart >> 1])
      : this.addEdge(far, vertex, this.strand[dart >> 1] as number, this.isRim[dart >> 1]);
    const onward = forward ? 2 * e : 2 * e + 1;
    const there = this.vertices[far]!.darts;
    there[there.indexOf(dart ^ 1)] = onward ^ 1;
    this.origin[dart ^ 1] = vertex;
    return onward;
  }

  /** The end vertex's single dart. */
  private endDart(end: number): number {
    return this.vertices[end]!.darts[0] as number;
  }

  /** Leads a free end across the edge of `dart`, from the face on its left to the face on its right. */
  private pass(end: number, dart: number, side: LiftSide): void {
    const own = this.endDart(end);
    const x = this.vertices.push({ darts: [], kind: 'crossing' }) - 1;
    const onward = this.split(dart, x);
    this.origin[own] = x;
    const strand = this.strand[own >> 1] as number;
    // `own` points back into the rope; the new edge goes on the same way as the rope does.
    const out = (own & 1) === 1 ? 2 * this.addEdge(x, end, strand) : 2 * this.addEdge(end, x, strand) + 1;
    this.vertices[end]!.darts = [out ^ 1];
    // South: where the crossed edge comes from; east: the end going on; north: the edge going on; west: the rope.
    this.vertices[x]!.darts = [dart ^ 1, out, onward, own];
    this.vertices[x]!.underParity = side === 'over' ? 0 : 1;
  }

  /**
   * Lifts an end to the face to the left of `goal`, across as few edges as it can. `choose` picks among edges that do equally
   * well, for tests that show the way does not matter.
   */
  lift(
    end: number,
    goal: (faceOf: readonly number[]) => number,
    side: LiftSide,
    choose: (ways: number) => number = () => 0,
  ): void {
    for (;;) {
      const { cycles, faceOf } = this.faces();
      const target = goal(faceOf);
      const here = faceOf[this.endDart(end)] as number;
      if (here === target) return;
      const steps = new Map<number, number>([[target, 0]]);
      const queue = [target];
      for (let face = queue.shift(); face !== undefined; face = queue.shift()) {
        for (const d of cycles[face] as number[]) {
          const beyond = faceOf[d ^ 1] as number;
          if (!this.isRim[d >> 1] && !steps.has(beyond)) {
            steps.set(beyond, (steps.get(face) as number) + 1);
            queue.push(beyond);
          }
        }
      }
      const away = steps.get(here);
      if (away === undefined) throw new TooWide('An end of it is shut in where it cannot be led out.');
      const ways = (cycles[here] as number[]).filter(
        (d) =>
          !this.isRim[d >> 1] && d >> 1 !== this.endDart(end) >> 1 && steps.get(faceOf[d ^ 1] as number) === away - 1,
      );
      this.pass(end, ways[choose(ways.length)] as number, side);
    }
  }

  /** Ties an end that lies beside a rim edge to it. */
  tie(end: number, rimDart: number): void {
    const vertex = this.vertices[end]!;
    const inward = this.endDart(end);
    const onward = this.split(rimDart, end);
    vertex.kind = 'rim';
    vertex.darts = [onward, inward, rimDart ^ 1];
  }
}

interface FixedEnd {
  readonly vertex: number;
  readonly end: RimEnd;
}

interface FreeTail {
  readonly rope: string;
  readonly end: number;
  /** The end that it belongs to, and those that it belongs to where an eye has parted it from that: the nearest cuts first. */
  readonly beside: readonly [number, ...number[]];
}

/**
 * The tangle of a figure with its free tails lifted as asked (`over` where nothing is asked).
 * Fixed ends: `standing` and `off` ends, both ends of an open host, the two ends at each eye, and the start of a rope with two tails.
 * With `held`, every tail is a fixed end too and stays where it lies.
 * `choose` picks among equally short ways of a lift, for tests that show the way does not matter.
 */
export function tangleOf(
  figure: Figure,
  sides: ReadonlyMap<string, LiftSide> | 'held' = new Map(),
  choose?: (ways: number) => number,
): Tangle {
  const map = planarMap(figure);
  const diagram = new RotationSystem();
  map.vertices.forEach((v) =>
    diagram.vertices.push({
      darts: [...v.darts],
      kind: v.crossing ? 'crossing' : 'end',
      ...(v.crossing ? { underParity: 1 as const } : {}),
    }),
  );
  diagram.origin.push(...map.origin);
  diagram.strand.push(...map.edges.map(() => -1));
  diagram.isRim.push(...map.edges.map(() => false));
  const outside = new Set(map.faces.filter((f) => f.outer).flatMap((f) => f.darts));

  const fixed: FixedEnd[] = [];
  const free: FreeTail[] = [];
  const endAt = (strand: string, at: number): number =>
    map.vertices.findIndex((v) => v.end?.strand === strand && v.end.at === at);
  for (const rope of figure.ropes) {
    if (!rope.closed) {
      const [near, far] = ropeEnds(rope);
      fixed.push({ vertex: endAt(rope.id, near.at), end: near.end });
      const end = endAt(rope.id, far.at);
      const isFree = far.end.at === 'tail' && sides !== 'held';
      if (!isFree) fixed.push({ vertex: end, end: far.end });
      const cuts = cutEyes(diagram, map, rope, outside);
      fixed.push(...cuts);
      const nearest = far.at === 0 ? cuts : [...cuts].reverse();
      if (isFree) free.push({ rope: rope.id, end, beside: [endAt(rope.id, near.at), ...nearest.map((c) => c.vertex)] });
    } else fixed.push(...cutEyes(diagram, map, rope, outside));
  }
  for (const host of figure.hosts) {
    if (hostIsClosed(host)) continue;
    const [p, q] = [host.points[0] as Point, host.points.at(-1) as Point];
    const [here, there] =
      p[0] < q[0] || (p[0] === q[0] && p[1] < q[1]) ? (['left', 'right'] as const) : (['right', 'left'] as const);
    fixed.push(
      { vertex: endAt(host.id, 0), end: { strand: host.id, at: here } },
      { vertex: endAt(host.id, lastAt(host)), end: { strand: host.id, at: there } },
    );
  }
  nameStrands(diagram);
  // A cut may part the figure; every part has an outside of its own.
  const anchors = diagram.faces().cycles.flatMap((cycle) => cycle.find((d) => outside.has(d)) ?? []);
  const buried = layRim(diagram, fixed, anchors, choose);
  const lifts = new Map<string, LiftSide>();
  for (const tail of free) {
    const side = sides === 'held' ? 'over' : (sides.get(tail.rope) ?? 'over');
    lifts.set(tail.rope, side);
    // An eye may have parted it from its standing end: then it goes beside the cut that it comes from.
    const { cycles, faceOf: now } = diagram.faces();
    const here = now[diagram.vertices[tail.end]!.darts[0] as number] as number;
    const besideIt = (vertex: number): boolean =>
      diagram.vertices[vertex]!.darts.some((d) => reaches(diagram, cycles, now, here, now[d] as number));
    const own = tail.beside.find(besideIt) ?? tail.beside[0];
    // Over: to the rim edge that goes on counterclockwise from its own end; under: to the one that comes before it.
    const inner = (): number => {
      const [next, , previous] = diagram.vertices[own]!.darts as [number, number, number];
      return side === 'over' ? next : previous ^ 1;
    };
    diagram.lift(tail.end, (faceOf) => faceOf[inner()] as number, side, choose);
    diagram.tie(tail.end, inner());
    diagram.vertices[tail.end]!.end = { strand: tail.rope, at: 'tail' };
  }
  return readTangle(diagram, fixed[0]?.vertex, map.freeLoops.length, lifts, buried);
}

/**
 * Cuts a rope at its eyes. The last cut is made first, so that an edge always keeps the part before the cut. `outside` gains the
 * darts of the parts after the cuts that lie at the outside of the drawing.
 */
function cutEyes(diagram: RotationSystem, map: PlanarMap, rope: Rope, outside: Set<number>): FixedEnd[] {
  const ascending = [...(rope.eyes ?? [])].sort((a, b) => a - b);
  return ascending
    .flatMap((at, n) => {
      const onEdge = (e: MapEdge): number | undefined =>
        e.strand !== rope.id
          ? undefined
          : [at, at + rope.points.length].find(
              (x) => x >= e.from && x <= (e.from <= e.to ? e.to : e.to + rope.points.length),
            );
      const edge = map.edges.findIndex((e) => onEdge(e) !== undefined);
      return edge < 0 ? [] : [{ n, edge, along: onEdge(map.edges[edge] as MapEdge) as number }];
    })
    .sort((p, q) => q.along - p.along)
    .flatMap(({ n, edge }): FixedEnd[] => {
      const back = 2 * edge + 1;
      const far = diagram.origin[back] as number;
      const a = diagram.vertices.push({ darts: [back], kind: 'end' }) - 1;
      const b = diagram.vertices.push({ darts: [], kind: 'end' }) - 1;
      const onward = 2 * diagram.addEdge(b, far, -1);
      if (outside.has(2 * edge)) outside.add(onward);
      if (outside.has(back)) outside.add(onward + 1);
      const there = diagram.vertices[far]!.darts;
      there[there.indexOf(back)] = onward + 1;
      diagram.origin[back] = a;
      diagram.vertices[b]!.darts = [onward];
      return [
        { vertex: a, end: { strand: rope.id, at: 'eye', eye: n, side: 'before' } },
        { vertex: b, end: { strand: rope.id, at: 'eye', eye: n, side: 'after' } },
      ];
    });
}

/** Numbers every maximal strand, straight through crossings from end to end: framing is removed from each by itself. */
function nameStrands(diagram: RotationSystem): void {
  let next = 0;
  const follow = (start: number): void => {
    const name = next++;
    for (let dart = start; diagram.strand[dart >> 1] === -1;) {
      diagram.strand[dart >> 1] = name;
      const v = diagram.vertices[diagram.origin[dart ^ 1] as number]!;
      if (v.kind !== 'crossing') break;
      dart = v.darts[(v.darts.indexOf(dart ^ 1) + 2) % 4] as number;
    }
  };
  for (const v of diagram.vertices)
    if (v.kind === 'end' && ((v.darts[0] as number) & 1) === 0) follow(v.darts[0] as number);
  for (let e = 0; e < diagram.strand.length; e += 1) if (diagram.strand[e] === -1) follow(2 * e);
}

/**
 * Ties the fixed ends to a rim in their order round the outside, counterclockwise. Ends that lie inside are first lifted over.
 * `anchors` are darts on the outside of each connected part; parts that do not cross are set side by side.
 */
function layRim(
  diagram: RotationSystem,
  fixed: readonly FixedEnd[],
  anchors: readonly number[],
  choose?: (ways: number) => number,
): RimEnd[] {
  const buried: RimEnd[] = [];
  for (const f of fixed) {
    diagram.vertices[f.vertex]!.end = f.end;
    const { cycles, faceOf } = diagram.faces();
    const here = faceOf[diagram.vertices[f.vertex]!.darts[0] as number];
    if (anchors.some((d) => faceOf[d] === here)) continue;
    const anchor = anchors.find((d) => reaches(diagram, cycles, faceOf, here as number, faceOf[d] as number)) as number;
    diagram.lift(f.vertex, (now) => now[anchor] as number, 'over', choose);
    buried.push(f.end);
  }
  const { cycles, faceOf } = diagram.faces();
  const ends = new Map(fixed.map((f) => [f.vertex, f]));
  // The walk along the outer face, the face on the left, goes clockwise round a part.
  const order = anchors.flatMap((d) =>
    (cycles[faceOf[d] as number] as number[]).flatMap((x) => ends.get(diagram.origin[x] as number) ?? []).reverse(),
  );
  const rim = order.map((f, i) => 2 * diagram.addEdge(f.vertex, order[(i + 1) % order.length]!.vertex, -1, true));
  order.forEach((f, i) => {
    const v = diagram.vertices[f.vertex]!;
    v.kind = 'rim';
    v.darts = [rim[i] as number, v.darts[0] as number, (rim[(i + order.length - 1) % order.length] as number) + 1];
  });
  return buried;
}

/** True when two faces belong to one connected part: one can be reached from the other across edges, the rim's apart. */
function reaches(
  { isRim }: RotationSystem,
  cycles: readonly number[][],
  faceOf: readonly number[],
  from: number,
  to: number,
): boolean {
  const seen = new Set([from]);
  const queue = [from];
  for (let f = queue.pop(); f !== undefined; f = queue.pop()) {
    if (f === to) return true;
    for (const d of cycles[f] as number[]) {
      const beyond = faceOf[d ^ 1] as number;
      if (isRim[d >> 1] !== true && !seen.has(beyond)) {
        seen.add(beyond);
        queue.push(beyond);
      }
    }
  }
  return false;
}

function readTangle(
  diagram: RotationSystem,
  first: number | undefined,
  freeLoops: number,
  lifts: ReadonlyMap<string, LiftSide>,
  buried: readonly RimEnd[],
): Tangle {
  const forwardOut = (darts: readonly number[], parity: number): number =>
    [parity, parity + 2].find((i) => ((darts[i] as number) & 1) === 0) as number;
  const crossings = diagram.vertices
    .filter((v) => v.kind === 'crossing')
    .map((v): TangleCrossing => {
      const under = v.underParity as 0 | 1;
      const turned = [0, 1, 2, 3].map((i) => v.darts[(i + under) % 4] as number);
      const overOut = forwardOut(v.darts, 1 - under);
      const underOut = forwardOut(v.darts, under);
      return {
        edges: turned.map((d) => d >> 1) as unknown as CrossingEdges,
        sign: (overOut + 1) % 4 === underOut ? 1 : -1,
        under: diagram.strand[(turned[0] as number) >> 1] as number,
        over: diagram.strand[(turned[1] as number) >> 1] as number,
      };
    });
  const rim: RimPoint[] = [];
  if (first !== undefined) {
    let at = first;
    do {
      const [next, inward] = diagram.vertices[at]!.darts as [number, number, number];
      const end = diagram.vertices[at]!.end as RimEnd;
      rim.push({
        end,
        label: labelOf(end),
        role: roleOf(end),
        edge: inward >> 1,
        enters: (inward & 1) === 0 ? 1 : -1,
        strand: diagram.strand[inward >> 1] as number,
      });
      at = diagram.origin[next ^ 1] as number;
    } while (at !== first);
  }
  return { crossings, rim, direct: joinedRim(rim), freeLoops, lifts, buried };
}

/** Edges that join two rim points without a crossing, each as a pair of its one name. */
export const joinedRim = (rim: readonly RimPoint[]): (readonly [number, number])[] =>
  rim.flatMap((p, i): (readonly [number, number])[] =>
    rim.findIndex((q) => q.edge === p.edge) < i ? [[p.edge, p.edge]] : [],
  );
