/**
 * The planar map of a figure: vertices are crossings and strand ends, edges are the runs between them, faces the regions of the
 * board. Held as a rotation system: every edge is two darts (2e along the trail, 2e+1 against it), and every vertex lists its
 * outgoing darts counterclockwise as seen on the screen.
 */
import { DisjointSets } from '../ground/disjoint-sets.js';
import { remembered } from '../ground/remembered.js';
import { crossingsOf, passagesOf, readCrossings, type Crossing } from '../figure/crossings.js';
import { curveOf, lineBetween } from '../figure/curve.js';
import { hostIsClosed, lastAt, type Figure, type TrailPosition } from '../figure/figure.js';
import { distance, type Point } from '../figure/point.js';
import { accept, refuse, type Result } from '../figure/refusal.js';

export interface MapVertex {
  readonly darts: number[];
  readonly crossing?: Crossing;
  /** Set at the end of an open strand. */
  readonly end?: TrailPosition;
}

export interface MapEdge {
  readonly strand: string;
  readonly from: number;
  readonly to: number;
}

export interface Face {
  readonly darts: readonly number[];
  /** Unbounded, as far as its own connected part of the figure goes. */
  readonly outer: boolean;
  readonly outline: readonly Point[];
}

export interface PlanarMap {
  readonly vertices: readonly MapVertex[];
  readonly edges: readonly MapEdge[];
  /** Vertex from which each dart goes out. */
  readonly origin: readonly number[];
  readonly faces: readonly Face[];
  /** Face to the left of each dart. */
  readonly faceOf: readonly number[];
  /** Connected parts. */
  readonly parts: number;
  /** Closed strands that cross nothing. */
  readonly freeLoops: readonly string[];
}

/** The dart that follows along the face on the left: at the far end, the next one clockwise from the way back. */
export function nextAlongFace(
  dart: number,
  origin: readonly number[],
  rotation: readonly (readonly number[])[],
): number {
  const back = dart ^ 1;
  const around = rotation[origin[back] as number] as readonly number[];
  return around[(around.indexOf(back) + around.length - 1) % around.length] as number;
}

/** Every face as a cycle of darts with the face on their left, and the face of each dart. */
export function traceFaces(
  origin: readonly number[],
  rotation: readonly (readonly number[])[],
): { cycles: number[][]; faceOf: number[] } {
  const faceOf = new Array<number>(origin.length).fill(-1);
  const cycles: number[][] = [];
  for (let start = 0; start < origin.length; start += 1) {
    if (faceOf[start] !== -1) continue;
    const cycle: number[] = [];
    for (let d = start; faceOf[d] === -1; d = nextAlongFace(d, origin, rotation)) {
      faceOf[d] = cycles.length;
      cycle.push(d);
    }
    cycles.push(cycle);
  }
  return { cycles, faceOf };
}

const signedArea = (outline: readonly Point[]): number => {
  let sum = 0;
  outline.forEach((p, i) => {
    const q = outline[(i + 1) % outline.length] as Point;
    sum += p[0] * q[1] - q[0] * p[1];
  });
  // y points down, so a counterclockwise outline as seen on the screen has a negative sum; turn it round.
  return -sum / 2;
};

/**
 * The planar map of a figure. Refused when the drawing is degenerate: where strands lie on each other or three meet in a point,
 * the crossings found need not make a planar map, and Euler’s formula, which is checked, fails.
 */
export const readMap = remembered((figure: Figure): Result<PlanarMap> => buildMap(figure));

/** The planar map of a figure that is known not to be degenerate. A degenerate one here is a bug, and throws. */
export function planarMap(figure: Figure): PlanarMap {
  const read = readMap(figure);
  if (!read.ok) throw new Error(`${read.place}: ${read.reason}`);
  return read.value;
}

/** The crossing at which a degenerate drawing is most in doubt: the flattest, or the one nearest to another. */
export function doubtfulCrossing(figure: Figure): Crossing | undefined {
  const crossings = crossingsOf(figure);
  const doubt = (c: Crossing): number =>
    Math.min(c.angle, ...crossings.map((d) => (d === c ? Infinity : distance(c.point, d.point))));
  return crossings.reduce<Crossing | undefined>((w, c) => (w === undefined || doubt(c) < doubt(w) ? c : w), undefined);
}

function buildMap(figure: Figure): Result<PlanarMap> {
  const crossings = readCrossings(figure);
  if (!crossings.ok) return crossings;
  const vertices: MapVertex[] = crossings.value.map((crossing) => ({ darts: [-1, -1, -1, -1], crossing }));
  const vertexOf = new Map<Crossing, number>(crossings.value.map((c, i) => [c, i]));
  const edges: MapEdge[] = [];
  const origin: number[] = [];
  const freeLoops: string[] = [];
  // Around a crossing: over strand onward, the under strand's dart that comes next counterclockwise, over back, under the other way.
  const slot = (crossing: Crossing, over: boolean, onward: boolean): number =>
    over ? (onward ? 0 : 2) : onward === (crossing.sign === 1) ? 1 : 3;
  for (const strand of [...figure.ropes, ...figure.hosts]) {
    const closed = 'closed' in strand ? strand.closed : hostIsClosed(strand);
    const passages = passagesOf(figure, strand.id);
    if (closed && passages.length === 0) {
      freeLoops.push(strand.id);
      continue;
    }
    const addEdge = (
      from: number,
      to: number,
      u: number,
      uSlot: number | undefined,
      v: number,
      vSlot: number | undefined,
    ): void => {
      const dart = 2 * edges.length;
      edges.push({ strand: strand.id, from, to });
      origin.push(u, v);
      const put = (vertex: number, at: number | undefined, d: number): void => {
        if (at === undefined) vertices[vertex]!.darts.push(d);
        else vertices[vertex]!.darts[at] = d;
      };
      put(u, uSlot, dart);
      put(v, vSlot, dart + 1);
    };
    const endVertex = (at: number): number => vertices.push({ darts: [], end: { strand: strand.id, at } }) - 1;
    let vertex: number;
    let onwardSlot: number | undefined;
    let at: number;
    const list = [...passages];
    if (closed) {
      const last = passages.at(-1)!;
      vertex = vertexOf.get(last.crossing) as number;
      onwardSlot = slot(last.crossing, last.over, true);
      at = last.at;
    } else {
      vertex = endVertex(0);
      onwardSlot = undefined;
      at = 0;
    }
    for (const p of list) {
      const there = vertexOf.get(p.crossing) as number;
      addEdge(at, p.at, vertex, onwardSlot, there, slot(p.crossing, p.over, false));
      vertex = there;
      onwardSlot = slot(p.crossing, p.over, true);
      at = p.at;
    }
    if (!closed) addEdge(at, lastAt(strand), vertex, onwardSlot, endVertex(lastAt(strand)), undefined);
  }
  const rotation = vertices.map((v) => v.darts);
  const { cycles, faceOf } = traceFaces(origin, rotation);
  const part = connectedParts(vertices.length, origin);
  const parts = new Set(part).size;
  if (vertices.length - edges.length + cycles.length !== 2 * parts) {
    const where = doubtfulCrossing(figure);
    return refuse(
      where ? `crossing ${where.number}` : 'figure',
      'Strands lie on each other or meet in one point there, so the order of the crossings is not certain.',
      'Move one of the strands aside.',
    );
  }
  const outlines = cycles.map((cycle) =>
    cycle.flatMap((d) => edgeLine(figure, edges[d >> 1] as MapEdge, (d & 1) === 1)),
  );
  const areas = outlines.map(signedArea);
  // Round a bounded face the left-hand walk is counterclockwise; the outer walk of each part is the one that goes clockwise.
  const outerOf = new Map<number, number>();
  cycles.forEach((cycle, f) => {
    const p = part[origin[cycle[0] as number] as number] as number;
    const best = outerOf.get(p);
    if (best === undefined || (areas[f] as number) < (areas[best] as number)) outerOf.set(p, f);
  });
  const outer = new Set(outerOf.values());
  const faces = cycles.map((darts, f): Face => ({ darts, outer: outer.has(f), outline: outlines[f] as Point[] }));
  return accept({ vertices, edges, origin, faces, faceOf, parts, freeLoops });
}

function edgeLine(figure: Figure, edge: MapEdge, backward: boolean): Point[] {
  const strand = [...figure.ropes, ...figure.hosts].find((s) => s.id === edge.strand)!;
  const curve = curveOf(strand);
  // A ring that is crossed once is one edge, all the way round.
  const line =
    edge.from < edge.to
      ? lineBetween(curve, edge.from, edge.to)
      : [...lineBetween(curve, edge.from, curve.pieces.length), ...lineBetween(curve, 0, edge.to)];
  return (backward ? line.reverse() : line).slice(0, -1);
}

/** For every vertex, a vertex that stands for its connected part. */
function connectedParts(count: number, origin: readonly number[]): number[] {
  const joined = new DisjointSets<number>();
  for (let d = 0; d < origin.length; d += 2) joined.join(origin[d] as number, origin[d + 1] as number);
  return Array.from({ length: count }, (_, v) => joined.root(v));
}

/** True when a place lies inside an outline (even–odd rule). */
export function inside(outline: readonly Point[], place: Point): boolean {
  let odd = false;
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i, i += 1) {
    const [p, q] = [outline[i] as Point, outline[j] as Point];
    if (p[1] > place[1] !== q[1] > place[1] && place[0] < ((q[0] - p[0]) * (place[1] - p[1])) / (q[1] - p[1]) + p[0])
      odd = !odd;
  }
  return odd;
}
