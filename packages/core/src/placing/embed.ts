/**
 * Laying out a code in the plane: an extended Gauss code or a PD code says which crossings follow each other along every strand and
 * how they turn, and nothing of where they lie.
 *
 * The code is a planar map. Every strand between crossings gets inner nodes, every inner face a centre joined to all of its boundary,
 * the outer face a ring of fixed nodes; then each node is put at the middle of its neighbours, which draws a planar map without
 * crossings. Source: W. T. Tutte, "How to draw a graph", Proceedings of the London Mathematical Society 13 (1963). Tidy makes a
 * drawing of it that a person would make.
 */
import { DisjointSets } from '../ground/disjoint-sets.js';
import { runOut } from '../ground/run-out.js';
import { freshId, type Figure, type Rope } from '../figure/figure.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import type { Point } from '../figure/point.js';
import { weaveFigure } from '../figure/crossings.js';
import { gaussOf, type GaussStrand } from '../topology/gauss.js';
import { checkPd, pdSigns, type PdCode } from '../topology/pd.js';
import { relaxed } from './relax.js';
import type { Net, Node } from './strands.js';

/** A place where a strand begins or ends, or passes a crossing. */
interface Stop {
  readonly vertex: number;
  /** The slots by which the strand comes and goes, counterclockwise at the crossing. */
  readonly into: number;
  readonly out: number;
}

interface Edge {
  readonly strand: number;
  readonly from: Stop;
  readonly to: Stop;
  /** Inner nodes, from `from` to `to`. */
  readonly inner: number[];
}

/** Inner nodes of a strand between two stops: enough for a loop to be round. */
const INNER = 3;
/** And of a standing part or a tail: enough to be seen. */
const LEAD = 6;
/** And of a loop that a strand makes over itself. */
const LOOP = 7;

/** The planar map that a Gauss code describes, before anything has a place. */
interface CodeMap {
  readonly edges: readonly Edge[];
  /** Boundary walks: node numbers in order, the face on the left. */
  readonly faces: readonly (readonly number[])[];
  readonly vertexCount: number;
  readonly nodeCount: number;
  readonly components: number;
}

/** Slots counterclockwise at a crossing: the over strand leaves by 0 and comes by 2; the sign says by which the under one goes. */
const slotsOf = (over: boolean, sign: 1 | -1): { into: number; out: number } =>
  over ? { into: 2, out: 0 } : sign === 1 ? { into: 3, out: 1 } : { into: 1, out: 3 };

function mapOf(strands: readonly GaussStrand[]): Result<CodeMap> {
  const crossings = [...new Set(strands.flatMap((s) => s.passages.map((p) => p.crossing)))];
  const vertexOf = new Map(crossings.map((c, i) => [c, i]));
  let vertexCount = crossings.length;
  const stopsOf = strands.map((s): Stop[] => {
    const stops = s.passages.map((p): Stop => ({
      vertex: vertexOf.get(p.crossing) as number,
      ...slotsOf(p.over, p.sign),
    }));
    if (s.closed) return stops;
    const [start, end] = [vertexCount, vertexCount + 1];
    vertexCount += 2;
    return [{ vertex: start, into: 0, out: 0 }, ...stops, { vertex: end, into: 0, out: 0 }];
  });
  let nodeCount = vertexCount;
  const edges: Edge[] = [];
  stopsOf.forEach((stops, strand) => {
    const closed = strands[strand]?.closed === true;
    stops.forEach((from, i) => {
      const to = stops[i + 1] ?? (closed ? stops[0] : undefined);
      if (!to) return;
      edges.push({
        strand,
        from,
        to,
        inner: Array.from(
          { length: !closed && (i === 0 || i === stops.length - 2) ? LEAD : to.vertex === from.vertex ? LOOP : INNER },
          () => nodeCount++,
        ),
      });
    });
  });
  // Darts: 2e goes along edge e, 2e + 1 against it. `at` finds the dart that leaves a vertex by a slot.
  const at = new Map<string, number>();
  const degree = Array.from({ length: vertexCount }, (_, v) => (v < crossings.length ? 4 : 1));
  edges.forEach((e, i) => {
    at.set(`${e.from.vertex} ${e.from.out}`, 2 * i);
    at.set(`${e.to.vertex} ${e.to.into}`, 2 * i + 1);
  });
  const seen = new Set<number>();
  const faces: number[][] = [];
  for (let start = 0; start < 2 * edges.length; start += 1) {
    if (seen.has(start)) continue;
    const walk: number[] = [];
    for (let dart = start; !seen.has(dart);) {
      seen.add(dart);
      const e = edges[dart >> 1] as Edge;
      const along = dart % 2 === 0;
      walk.push((along ? e.from : e.to).vertex, ...(along ? e.inner : [...e.inner].reverse()));
      const [vertex, slot] = along ? [e.to.vertex, e.to.into] : [e.from.vertex, e.from.out];
      const size = degree[vertex] as number;
      dart = at.get(`${vertex} ${(slot + size - 1) % size}`) as number;
    }
    faces.push(walk);
  }
  const joined = new DisjointSets<number>();
  for (const e of edges) joined.join(e.from.vertex, e.to.vertex);
  const components = joined.groups(Array.from({ length: vertexCount }, (_, v) => v)).length;
  if (
    vertexCount - edges.length + faces.length !== 1 + components &&
    vertexCount - edges.length + faces.length !== 2 * components
  )
    return refuse(
      'code',
      'No drawing in the plane has this code.',
      'Look for a wrong sign, or two passages exchanged.',
    );
  return accept({ edges, faces, vertexCount, nodeCount, components });
}

/** Places for the nodes of a connected planar map. */
function placed(map: CodeMap): Point[] {
  const ends = (walk: readonly number[]): number =>
    walk.filter((v) =>
      map.edges.some(
        (e) =>
          e.from === e.to ||
          (e.from.into === e.from.out && e.from.vertex === v) ||
          (e.to.into === e.to.out && e.to.vertex === v),
      ),
    ).length;
  const outer = [...map.faces].sort((a, b) => ends(b) - ends(a) || b.length - a.length)[0] as readonly number[];
  const inner = map.faces.filter((f) => f !== outer);
  const links: number[][] = Array.from({ length: map.nodeCount + inner.length + outer.length }, () => []);
  const link = (a: number, b: number): void => {
    links[a]?.push(b);
    links[b]?.push(a);
  };
  for (const { from, to, inner: own } of map.edges) {
    const path = [from.vertex, ...own, to.vertex];
    path.slice(1).forEach((b, i) => link(path[i] as number, b));
  }
  inner.forEach((walk, i) => {
    for (const v of new Set(walk)) link(map.nodeCount + i, v);
  });
  const ring = map.nodeCount + inner.length;
  outer.forEach((v, i) => link(ring + i, v));
  const radius = RING * Math.sqrt(map.nodeCount);
  const places = links.map((_, i): [number, number] => {
    if (i < ring) return [0, 0];
    const angle = (2 * Math.PI * (i - ring)) / outer.length;
    return [radius * Math.cos(angle), radius * Math.sin(angle)];
  });
  // Each node to the middle of its neighbours, over and over: the system is small and diagonally dominant.
  for (let round = 0; round < MOST_ROUNDS; round += 1) {
    let moved = 0;
    for (let i = 0; i < ring; i += 1) {
      const own = links[i] as number[];
      let [x, y] = [0, 0];
      for (const j of own) {
        const p = places[j] as [number, number];
        x += p[0] / own.length;
        y += p[1] / own.length;
      }
      const here = places[i] as [number, number];
      moved = Math.max(moved, Math.abs(x - here[0]), Math.abs(y - here[1]));
      here[0] = x;
      here[1] = y;
    }
    if (moved < radius * 1e-9) break;
  }
  return places.slice(0, map.nodeCount);
}

const MOST_ROUNDS = 6000;
/** The ring a layout begins in, in diameters for the root of its number of nodes: about the room they need. */
const RING = 2.4;
/** A layout begins far from a drawing and takes more rounds than tidying one. */
const LAYOUT_ROUNDS = 700;

/** Strands in groups that cross each other; each group is laid out by itself. */
function groupsOf(strands: readonly GaussStrand[]): number[][] {
  const together = new DisjointSets<number>();
  const first = new Map<number, number>();
  strands.forEach((s, i) => {
    for (const { crossing } of s.passages) {
      const other = first.get(crossing);
      if (other === undefined) first.set(crossing, i);
      else together.join(i, other);
    }
  });
  return together.groups(strands.keys());
}

/** A code laid out, telling how far it is. Strands become ropes a, b, …; an open one is laid from its standing part to its tail. */
export function* layingOut(strands: readonly GaussStrand[]): Generator<number, Result<Figure>> {
  const groups = groupsOf(strands);
  const ropes = new Map<number, Pick<Rope, 'points' | 'closed'>>();
  let left = 0;
  for (const [g, members] of groups.entries()) {
    const own = members.map((i) => strands[i] as GaussStrand);
    const plain = own.length === 1 && own[0]?.passages.length === 0;
    let net: Net;
    if (plain) net = loose(own[0]?.closed === true);
    else {
      const map = mapOf(own);
      if (!map.ok) return map;
      net = netFrom(own, map.value);
      for (const done of relaxed(net, { rounds: LAYOUT_ROUNDS })) yield (g + done) / groups.length;
    }
    const [low, high] = [Math.min(...net.nodes.map((n) => n.x)), Math.max(...net.nodes.map((n) => n.x))];
    net.lines.forEach((line, k) => {
      const points = line.nodes.map((i): Point => {
        const n = net.nodes[i] as Node;
        return [Math.round((n.x - low + left) * 1000) / 1000, Math.round(n.y * 1000) / 1000];
      });
      ropes.set(members[k] as number, { points, closed: line.closed });
    });
    left += high - low + 6;
  }
  return drawn(strands, ropes, left);
}

/** A strand that crosses nothing: a straight rope, or a round sling. */
function loose(closed: boolean): Net {
  const n = 12;
  const nodes = Array.from({ length: n }, (_, i): Node => {
    const angle = (2 * Math.PI * i) / n;
    return closed ? { x: 6 * Math.cos(angle), y: 6 * Math.sin(angle), hold: 'free' } : { x: i * 2, y: 0, hold: 'free' };
  });
  return { nodes, lines: [{ id: '', closed, nodes: nodes.map((_, i) => i) }], crossings: new Set() };
}

function netFrom(strands: readonly GaussStrand[], map: CodeMap): Net {
  const places = placed(map);
  const crossings = new Set(
    Array.from({ length: new Set(strands.flatMap((s) => s.passages.map((p) => p.crossing))).size }, (_, i) => i),
  );
  const lines = strands.map((s, strand) => {
    const own = map.edges.filter((e) => e.strand === strand);
    const last = own.at(-1);
    const around = own.flatMap((e) => [e.from.vertex, ...e.inner]);
    // A sling's trail begins between two crossings, not on one.
    const half = s.closed && last ? Math.ceil(last.inner.length / 2) : 0;
    const nodes = half === 0 ? around : [...around.slice(-half), ...around.slice(0, -half)];
    return { id: String(strand), closed: s.closed, nodes: s.closed || !last ? nodes : [...nodes, last.to.vertex] };
  });
  return { nodes: places.map(([x, y]): Node => ({ x, y, hold: 'free' })), lines, crossings };
}

function drawn(
  strands: readonly GaussStrand[],
  ropes: ReadonlyMap<number, Pick<Rope, 'points' | 'closed'>>,
  width: number,
): Result<Figure> {
  let figure: Figure = { ropes: [], hosts: [] };
  strands.forEach((_, i) => {
    const { points, closed } = ropes.get(i) as Pick<Rope, 'points' | 'closed'>;
    const centred = points.map(([x, y]): Point => [Math.round((x - width / 2) * 1000) / 1000, y]);
    const rope: Rope = {
      id: freshId(figure),
      points: centred,
      curve: 'smooth',
      closed,
      ends: closed ? ['off', 'off'] : ['standing', 'tail'],
      weave: '',
    };
    figure = { ...figure, ropes: [...figure.ropes, rope] };
  });
  // The weave is the code's own: over and under in the order of the trail.
  const wanted = strands.map((s) => s.passages.map((p) => (p.over ? 'O' : 'U')).join(''));
  const woven: Figure = { ...figure, ropes: figure.ropes.map((r, i) => ({ ...r, weave: wanted[i] as string })) };
  const counted = weaveFigure({ ...figure }, () => true);
  if (counted.ropes.some((r, i) => r.weave.length !== wanted[i]?.length) || !sameCode(woven, strands))
    return refuse(
      'code',
      'It could not be drawn without touching strands.',
      'Draw it by hand, or give a simpler code.',
    );
  return accept(woven);
}

/** True when a figure has a code, whatever its crossings are numbered. */
function sameCode(figure: Figure, strands: readonly GaussStrand[]): boolean {
  let code: readonly GaussStrand[];
  try {
    code = gaussOf(figure);
  } catch {
    return false;
  }
  const name = new Map<number, number>();
  const say = (list: readonly GaussStrand[]): string => {
    name.clear();
    return list
      .map((s) =>
        s.passages
          .map((p) => {
            if (!name.has(p.crossing)) name.set(p.crossing, name.size + 1);
            return `${p.over ? 'O' : 'U'}${name.get(p.crossing)}${p.sign}`;
          })
          .join(' '),
      )
      .join('/');
  };
  return say(code) === say(strands);
}

/** Lays out an extended Gauss code in one go. */
export const layOut = (strands: readonly GaussStrand[]): Result<Figure> => runOut(layingOut(strands));

/** The strands of a PD code, all closed, in the order of their edges. */
export function gaussOfPd(code: PdCode): Result<readonly GaussStrand[]> {
  const checked = checkPd(code);
  if (!checked.ok) return checked;
  const signs = pdSigns(code);
  // Where each edge runs into, and the edge that it goes on as.
  const head = new Map<number, { crossing: number; over: boolean; next: number }>();
  code.forEach(([a, b, c, d], i) => {
    head.set(a, { crossing: i + 1, over: false, next: c });
    const [into, out] = signs[i] === 1 ? [d, b] : [b, d];
    head.set(into, { crossing: i + 1, over: true, next: out });
  });
  if (head.size !== 2 * code.length)
    return refuse(
      'PD code',
      'Its strands cannot be followed in one direction.',
      'Number the edges along each strand, and begin each crossing with its incoming under edge.',
    );
  const left = new Set([...head.keys()].sort((a, b) => a - b));
  const strands: GaussStrand[] = [];
  for (const start of left) {
    const passages: { crossing: number; over: boolean; sign: 1 | -1 }[] = [];
    for (let e = start; left.has(e);) {
      left.delete(e);
      const { crossing, over, next } = head.get(e) as { crossing: number; over: boolean; next: number };
      passages.push({ crossing, over, sign: signs[crossing - 1] as 1 | -1 });
      e = next;
    }
    strands.push({ closed: true, passages });
  }
  return accept(strands);
}
