/**
 * The work of Settle: every strand of a net has a tension, a stiffness and some speed kept from round to round; strands that come too
 * near are moved apart; a move is bounded so that no strand reaches another. Unit: rope diameters.
 *
 * Source of the bound: F. Bertault, "A force-directed algorithm that preserves edge-crossing properties", Information Processing Letters
 * 74 (2000).
 */
import { ropeOf, type Figure } from '../figure/figure.js';
import { unit, type Point } from '../figure/point.js';
import { Cells } from '../ground/cells.js';
import { remeshed } from '../placing/relax.js';
import { neighbour, type Line, type Net, type Node } from '../placing/strands.js';
import { apart, BESIDE, meshOf, TURNS_MORE, type Mesh } from './settle-mesh.js';
import { breadthsOf, lengthOfRun, mean, nodeAt, pairOf, runsOf, sum, type Run, type Wish } from './settle-wishes.js';

const SPACING = 0.95;
const LONGEST = 1.6;
const SHORTEST = 0.7;
/** It is looked at every so many rounds, and is at rest when it has become shorter by no more than this since, and
 * longer by no more than this share. */
const LOOK = 40;
const AT_REST = 0.1;
const SPREADING = 0.004;
const ROUNDS = 2000;
const COOLING = 120;
const REMESH_EVERY = 8;
const KEPT = 0.9;
const FASTEST = 0.4;
/** Share of the distance to a strand that a node, and the ends of that strand's segment, may move at once. */
const SAFE = 0.3;
const TENSION = 0.06;
/** A run that is longer than so many times what it need be is drawn in the faster for it, up to so much. */
const SLACK = 2.5;
const MOST_SLACK = 10;
/** What bends evenly: the length over which stiffness outweighs tension, in diameters. */
const STIFFNESS = 1.6;
/** Of turns, against that. */
const SOFT = 0.4;
const MOST_BEND = 0.12;
/** What turns go round is drawn straighter than they are. */
const CORE_PULL = 4;
const STRAIGHTEN = 0.12;
const PUSH = 0.6;
/** Doubled strands cling to each other up to so many times the distance they keep. */
const CLINGS = 2;
const CLING = 0.1;
const STRETCH = 0.25;
const END_PULL = 0.03;
/** Of a tail, against a loaded end. */
const TAIL_PULL = 0.6;
/** Of a loop, which has two legs. */
const EYE_PULL = 2;

/** Over so many nodes it is seen which way an end leads. */
const LEADING = 5;

/** An end or the apex of a loop, and where it was drawn from the middle of the figure: it is pulled that way. */
interface Drawn {
  readonly node: Node;
  /** Unit vectors: to which side of the figure it lay, and which way it led. */
  readonly side: Point;
  readonly way: Point;
  readonly weight: number;
}

export class Settling {
  private mesh!: Mesh;
  private vx = new Float64Array(0);
  private vy = new Float64Array(0);
  private readonly drawn: readonly Drawn[];
  private readonly pulls: ReadonlyMap<Node, Drawn>;
  private readonly breadths: readonly number[];
  private readonly isRope: readonly boolean[];
  /** By run, all runs counted: whether it is of a turn. */
  private readonly wound: readonly boolean[];

  constructor(
    figure: Figure,
    private readonly net: Net,
    /** What is wished of every run, by line and run. */
    private readonly wishes: readonly (readonly Wish[])[],
    private readonly doubled: ReadonlySet<number>,
  ) {
    this.breadths = breadthsOf(figure, net);
    this.isRope = net.lines.map((l) => ropeOf(figure, l.id) !== undefined && l.bare !== true);
    this.wound = this.wishes.flat().map((w) => w.winds === true);
    const [mx, my] = this.middle();
    const drawn = (node: Node, from: Pick<Node, 'x' | 'y'>, weight: number): Drawn => ({
      node,
      side: unit([node.x - mx, node.y - my]),
      way: unit([node.x - from.x, node.y - from.y]),
      weight,
    });
    this.drawn = [
      ...net.lines.flatMap((line, k) => {
        if (line.closed || !this.isRope[k]) return [];
        const { ends } = ropeOf(figure, line.id)!;
        const last = line.nodes.length - 1;
        return [
          [0, Math.min(last, LEADING)],
          [last, Math.max(0, last - LEADING)],
        ].map(([i, from], e) =>
          drawn(nodeAt(net, line, i!), nodeAt(net, line, from!), ends[e] === 'tail' ? TAIL_PULL : 1),
        );
      }),
      ...this.apexes().map((node) => drawn(node, { x: mx, y: my }, EYE_PULL)),
    ];
    this.pulls = new Map(this.drawn.map((d) => [d.node, d]));
  }

  /** Draws in until nothing moves that is to be seen, then lets it come to rest. */
  *run(): Generator<number, void> {
    let [length, cooling] = [Infinity, 0];
    for (let round = 0; cooling < COOLING; round += 1) {
      if (round % REMESH_EVERY === 0) this.remesh();
      if (cooling > 0 || round >= ROUNDS) cooling += 1;
      else if (round % LOOK === 0) {
        const now = sum(this.mesh.runs.flat().map((run) => lengthOfRun(this.net, run)));
        if (length - now < AT_REST && now - length < SPREADING * now) cooling = 1;
        length = now;
      }
      this.round(FASTEST * (1 - (0.9 * cooling) / COOLING));
      yield Math.min(1, (round + 1) / (ROUNDS + COOLING));
    }
    // What is tied to something stays as that is.
    if (this.isRope.every(Boolean)) this.turnBack();
  }

  /** Turns the figure as a whole until its ends and loops lie to the sides to which they were drawn. */
  private turnBack(): void {
    const { net } = this;
    const [mx, my] = this.middle();
    let [sin, cos] = [0, 0];
    for (const {
      node,
      side: [x, y],
      weight,
    } of this.drawn) {
      const [wx, wy] = [node.x - mx, node.y - my];
      const length = Math.sqrt(wx * wx + wy * wy) || 1;
      sin += (weight * (wx * y - wy * x)) / length;
      cos += (weight * (wx * x + wy * y)) / length;
    }
    const length = Math.sqrt(sin * sin + cos * cos);
    if (length < 1e-6) return;
    const [s, c] = [sin / length, cos / length];
    for (const n of net.nodes) {
      const [x, y] = [n.x - mx, n.y - my];
      [n.x, n.y] = [mx + c * x - s * y, my + s * x + c * y];
    }
  }

  private middle(): [number, number] {
    const list = [...this.net.crossings].map((i) => this.net.nodes[i]!);
    return [mean(list.map((n) => n.x)), mean(list.map((n) => n.y))];
  }

  /** The node in the middle of each loop that stays. */
  private apexes(): Node[] {
    return runsOf(this.net).flatMap((runs, k) =>
      runs.flatMap(({ from, to }, r) =>
        this.wishes[k]![r]!.loop === true ? [nodeAt(this.net, this.net.lines[k]!, (from + to) >> 1)] : [],
      ),
    );
  }

  /** Puts nodes into long segments and takes them out of short ones. */
  private remesh(): void {
    const { net } = this;
    const speeds = new Map(net.nodes.map((n, i) => [n, [this.vx[i] ?? 0, this.vy[i] ?? 0] as const]));
    remeshed(net, { longest: LONGEST, shortest: SHORTEST });
    this.vx = Float64Array.from(net.nodes, (n) => speeds.get(n)?.[0] ?? 0);
    this.vy = Float64Array.from(net.nodes, (n) => speeds.get(n)?.[1] ?? 0);
    this.mesh = meshOf(net, this.breadths);
  }

  private isOfRope(node: number): boolean {
    return this.mesh.places[node]!.some((p) => this.isRope[p.line]);
  }

  private winds(run: number): boolean {
    return this.wound[run] === true;
  }

  private areDoubled(node: number, segment: number): boolean {
    const { runOfNode, runOfSegment } = this.mesh;
    return this.doubled.has(pairOf(runOfNode[node]!, runOfSegment[segment]!));
  }

  /** Bounds the moves of a node and of a segment that it could reach, and moves them apart, or together where they are doubled. */
  private part(v: number, s: number, broadest: number, bound: Float64Array, fx: Float64Array, fy: Float64Array): void {
    const { mesh, breadths } = this;
    const { nodes } = this.net;
    const segment = mesh.segments[s]!;
    const a = segment[0];
    const b = segment[1];
    if (a === v || b === v) return;
    const node = nodes[v]!;
    const p = nodes[a]!;
    const ux = nodes[b]!.x - p.x;
    const uy = nodes[b]!.y - p.y;
    const square = ux * ux + uy * uy;
    const t = square === 0 ? 0 : Math.min(1, Math.max(0, ((node.x - p.x) * ux + (node.y - p.y) * uy) / square));
    const dx = node.x - p.x - t * ux;
    const dy = node.y - p.y - t * uy;
    const away = Math.sqrt(dx * dx + dy * dy);
    const safe = SAFE * away;
    if (safe < bound[v]!) bound[v] = safe;
    if (safe < bound[a]!) bound[a] = safe;
    if (safe < bound[b]!) bound[b] = safe;
    if (away === 0 || !this.isOfRope(v)) return;
    const doubled = this.areDoubled(v, s);
    const stretch = mesh.stretches[s]!;
    if (!doubled && away >= BESIDE + TURNS_MORE + (broadest + breadths[stretch.line]!) / 2 - 1) return;
    const wound = this.winds(mesh.runOfNode[v]!) || this.winds(mesh.runOfSegment[s]!);
    const wanted = apart(breadths, mesh.places[v]!, stretch, t, wound);
    if (away >= wanted && (away > CLINGS * wanted || !doubled)) return;
    const force = ((away < wanted ? PUSH : CLING) * (wanted - away)) / away / 2;
    fx[v]! += force * dx;
    fy[v]! += force * dy;
    fx[a]! -= (1 - t) * force * dx;
    fy[a]! -= (1 - t) * force * dy;
    fx[b]! -= t * force * dx;
    fy[b]! -= t * force * dy;
  }

  private round(fastest: number): void {
    const { net, mesh, vx, vy } = this;
    const { nodes } = net;
    const n = nodes.length;
    const [fx, fy, weight] = [new Float64Array(n), new Float64Array(n), new Float64Array(n)];
    net.lines.forEach((line, k) => {
      if (this.isRope[k]) this.shape(line, k, fx, fy, weight);
    });
    nodes.forEach((node, i) => {
      const pulled = this.pulls.get(node);
      if (!pulled) return;
      fx[i] = fx[i]! + END_PULL * pulled.weight * pulled.way[0];
      fy[i] = fy[i]! + END_PULL * pulled.weight * pulled.way[1];
    });
    const broadest = Math.max(...net.lines.map((_, k) => (this.isRope[k] ? this.breadths[k]! : 0)));
    const far = this.doubled.size > 0 ? CLINGS : 1;
    const cells = new Cells<number>(BESIDE + broadest - 1);
    mesh.segments.forEach(([a, b], s) => {
      const [p, q] = [nodes[a]!, nodes[b]!];
      const most = far * (BESIDE + TURNS_MORE + (broadest + this.breadths[mesh.stretches[s]!.line]!) / 2 - 1);
      cells.put(
        s,
        Math.min(p.x, q.x) - most,
        Math.min(p.y, q.y) - most,
        Math.max(p.x, q.x) + most,
        Math.max(p.y, q.y) + most,
      );
    });
    const bound = new Float64Array(n).fill(fastest);
    for (let v = 0; v < n; v += 1)
      for (const s of cells.at(nodes[v]!.x, nodes[v]!.y)) this.part(v, s, broadest, bound, fx, fy);
    for (let i = 0; i < n; i += 1) {
      const node = nodes[i]!;
      const mass = weight[i]! || 1;
      let [x, y] = [KEPT * vx[i]! + fx[i]! / mass, KEPT * vy[i]! + fy[i]! / mass];
      if (node.hold === 'fixed') [x, y] = [0, 0];
      else if (node.hold !== 'free') {
        const along = x * node.hold[0] + y * node.hold[1];
        [x, y] = [node.hold[0] * along, node.hold[1] * along];
      }
      const length = Math.sqrt(x * x + y * y);
      const share = length > bound[i]! ? bound[i]! / length : 1;
      [vx[i], vy[i]] = [x * share, y * share];
      node.x += x * share;
      node.y += y * share;
    }
  }

  /** What turns go round is drawn straight, along the line that fits it best. */
  private straighten(line: Line, from: number, to: number, add: (i: number, x: number, y: number) => void): void {
    const nodes = Array.from({ length: to - from + 1 }, (_, i) => nodeAt(this.net, line, from + i));
    const [mx, my] = [mean(nodes.map((n) => n.x)), mean(nodes.map((n) => n.y))];
    let [xx, xy, yy] = [0, 0, 0];
    for (const { x, y } of nodes) {
      xx += (x - mx) * (x - mx);
      xy += (x - mx) * (y - my);
      yy += (y - my) * (y - my);
    }
    const half = (xx - yy) / 2;
    const [wx, wy] = [half + Math.sqrt(half * half + xy * xy), xy];
    const [nx, ny] = wx === 0 && wy === 0 ? [-1, 0] : unit([-wy, wx]);
    nodes.forEach(({ x, y }, i) => {
      const off = (x - mx) * nx + (y - my) * ny;
      add(from + i, -STRAIGHTEN * off * nx, -STRAIGHTEN * off * ny);
    });
  }

  /** What a strand does by itself: it draws in, or keeps its length, and bends evenly. */
  private shape(line: Line, k: number, fx: Float64Array, fy: Float64Array, weight: Float64Array): void {
    const { net, mesh } = this;
    const n = line.nodes.length;
    const bends = new Float64Array(n).fill(this.bend(k, 1));
    const add = (i: number, x: number, y: number): void => {
      const id = neighbour(line, i)!;
      fx[id] = fx[id]! + x;
      fy[id] = fy[id]! + y;
    };
    for (const id of line.nodes) weight[id] = weight[id]! + 1;
    mesh.runs[k]!.forEach((run, r) => {
      const { length: wished, firm, straight, winds } = this.wishes[k]![r]!;
      const length = lengthOfRun(net, run);
      const want = wished / (run.to - run.from);
      const keeps = firm || length < wished;
      const drawn = straight ? CORE_PULL : keeps ? 0 : Math.min(MOST_SLACK, Math.max(1, length / (SLACK * wished)));
      if (winds === true) for (let i = run.from; i <= run.to; i += 1) bends[i % n] = this.bend(k, SOFT);
      for (let i = run.from; i < run.to; i += 1) {
        const [p, q] = [nodeAt(net, line, i), nodeAt(net, line, i + 1)];
        const [dx, dy] = [q.x - p.x, q.y - p.y];
        const now = Math.sqrt(dx * dx + dy * dy) || 1;
        const force = 0.5 * (TENSION * drawn + (keeps ? (STRETCH * (now - want)) / now : 0));
        add(i, force * dx, force * dy);
        add(i + 1, -force * dx, -force * dy);
      }
    });
    for (const [from, to] of chainsOf(mesh.runs[k]!, this.wishes[k]!)) this.straighten(line, from, to, add);
    for (let i = line.closed ? 0 : 1; i < (line.closed ? n : n - 1); i += 1) {
      const [b, c, d] = [nodeAt(net, line, i - 1), nodeAt(net, line, i), nodeAt(net, line, i + 1)];
      const [x, y] = [bends[i]! * (b.x - 2 * c.x + d.x), bends[i]! * (b.y - 2 * c.y + d.y)];
      add(i, 2 * x, 2 * y);
      add(i - 1, -x, -y);
      add(i + 1, -x, -y);
    }
  }

  /** How stiff a strand is at a node: what of a bend it takes away in a round. */
  private bend(line: number, share: number): number {
    const h = SPACING * this.breadths[line]!;
    return Math.min(MOST_BEND, (TENSION * share * share * STIFFNESS * STIFFNESS) / (2 * h * h));
  }
}

/** Runs of a strand that turns go round, joined: from where to where on its nodes. */
function chainsOf(runs: readonly Run[], wishes: readonly Wish[]): [number, number][] {
  const chains: [number, number][] = [];
  runs.forEach(({ from, to }, r) => {
    if (!wishes[r]!.straight) return;
    const last = chains.at(-1);
    if (last?.[1] === from) last[1] = to;
    else chains.push([from, to]);
  });
  return chains;
}
