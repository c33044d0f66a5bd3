/**
 * Settle: a drawing that lies as rope would on a table. Bends grow round, slack is drawn in until strands lie beside each other at a
 * distance that can be read, turns stand in even slanted bands, leads run out straight. In the plane, every crossing kept: the figure
 * has the extended Gauss code it had, or nothing is changed. Unit: rope diameters.
 */
import { BREAKS } from '../figure/bounds.js';
import { diameterOf } from '../figure/cordage.js';
import { passagesOf, readWeave } from '../figure/crossings.js';
import { crowded } from '../figure/crowded.js';
import { atLength, curveOf, lengthTo } from '../figure/curve.js';
import { hostOf, lastAt, ropeOf, type Figure, type Host, type Rope, type TrailSpan } from '../figure/figure.js';
import { isHeldTaut } from '../figure/held-taut.js';
import { scale, subtract, unit, type Point } from '../figure/point.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { runOut } from '../ground/run-out.js';
import type { Line, Net } from '../placing/strands.js';
import { figureOf, middleOf, moveTo, netOf, type Tidied, type TidyProgress } from '../placing/tidy.js';
import { doubledRuns, lengthOfRun, nodeAt, runsOf, sum, wishesOf, type Wish } from './settle-wishes.js';
import { Settling } from './settling.js';

/** What is straight is drawn so far beyond its outermost crossings, from its surface. */
const BEYOND = 3.5;
const FAR = 200;
/** A tail drawn shorter by at least so many diameters has a break, at such a share of its drawn length. */
const LEAST_BREAK = 1;
const BREAK_AT = [0.45, 0.55] as const;
/** A figure is drawn so much smaller to begin with that its runs are about so many times as long as they need be. */
const ROOMY = 1.5;
const SMALLEST = 0.3;
const PICTURE_EVERY = 25;

/** Along what a straight host lies, or a rope that is held taut; nothing for what is not straight. */
function axisOf(figure: Figure, id: string): Point | undefined {
  const [host, rope] = [hostOf(figure, id), ropeOf(figure, id)];
  if (host ? host.points.length !== 2 : !rope || !isHeldTaut(rope, figure)) return undefined;
  const points = (host ?? rope)!.points;
  const [p, q] = [points[0]!, points.at(-1)!];
  return unit(subtract(q, p));
}

/** On what is straight, crossings slide past what was only put there to hold it; a taut rope is made straight. */
function freeHosts(figure: Figure, net: Net): Net {
  const nodes = [...net.nodes];
  const lines = net.lines.map((line): Line => {
    const axis = axisOf(figure, line.id);
    if (!axis) return line;
    const last = line.nodes.length - 1;
    const kept = line.nodes.filter((id, i) => i === 0 || i === last || net.crossings.has(id));
    for (const [i, id] of kept.entries()) {
      const { x, y } = nodes[id]!;
      // Its ends are out of the way of whatever slides along it.
      const out = i === 0 ? -FAR : i === kept.length - 1 ? FAR : 0;
      nodes[id] = { x: x + out * axis[0], y: y + out * axis[1], hold: out === 0 ? axis : 'fixed' };
    }
    return { ...line, bare: true, nodes: kept };
  });
  return { ...net, nodes, lines };
}

/** How much smaller a figure is drawn to begin with, so that little is left to be drawn in. */
function scaleFor(net: Net, wishes: readonly (readonly Wish[])[]): number {
  const runs = runsOf(net).flat();
  const free = wishes.flat().map((w, r) => ({ ...w, drawn: lengthOfRun(net, runs[r]!) }));
  const drawnIn = free.filter((w) => !w.firm && w.length > 0);
  const [drawn, wished] = [sum(drawnIn.map((w) => w.drawn)), sum(drawnIn.map((w) => w.length))];
  return drawn === 0 ? 1 : Math.min(1, Math.max(SMALLEST, (ROOMY * wished) / drawn));
}

const scaledBy = (figure: Figure, by: number): Figure => {
  const points = (list: readonly Point[]): Point[] => list.map((p) => scale(p, by));
  return {
    ropes: figure.ropes.map((r): Rope => ({ ...r, points: points(r.points) })),
    hosts: figure.hosts.map((h): Host => ({ ...h, points: points(h.points) })),
  };
};

/** Settles a figure, telling how far it is. What cannot be settled without changing a crossing is refused. */
export function* settling(drawn: Figure, pictures = true): Generator<TidyProgress, Result<Tidied>, unknown> {
  if (drawn.ropes.length === 0) return refuse('figure', 'There is no rope on the board.', 'Lay one first.');
  const read = readWeave(drawn);
  if (!read.ok) return read;
  const asDrawn = freeHosts(drawn, netOf(drawn));
  const wishes = wishesOf(drawn, asDrawn);
  // A ring or a post stays as it is drawn, and where.
  const isLoose = drawn.hosts.every((h) => axisOf(drawn, h.id) !== undefined);
  const figure = isLoose ? scaledBy(drawn, scaleFor(asDrawn, wishes)) : drawn;
  const net = freeHosts(figure, netOf(figure));
  let r = 0;
  for (const done of new Settling(figure, net, wishes, doubledRuns(asDrawn, wishes)).run()) {
    r += 1;
    yield { done, figure: pictures && r % PICTURE_EVERY === 0 ? figureOf(figure, net, true)?.figure : undefined };
  }
  if (isLoose) moveTo(net, middleOf(netOf(drawn)));
  const hosts = isLoose ? shortened(figure, net) : figure.hosts;
  const found = figureOf(figure, net, false, hosts) ?? figureOf(figure, net, true, hosts);
  return found && crowded(found.figure) <= crowded(drawn)
    ? accept({ ...found, figure: withBreaks(drawn, found.figure) })
    : refuse(
        'figure',
        'It could not be laid as rope lies without changing a crossing.',
        'Tidy it, or move the strands that lie closest, and settle again.',
      );
}

/** Rope from a tail's last crossing to its end, drawn. */
function drawnTail(
  figure: Figure,
  rope: Rope,
  end: 0 | 1,
): TrailSpan & { readonly middle: number; readonly length: number } {
  const curve = curveOf(rope);
  const places = passagesOf(figure, rope.id).map((p) => p.at);
  const [from, to] = end === 0 ? [0, places[0] ?? 0] : [places.at(-1) ?? 0, lastAt(rope)];
  const [a, b] = [lengthTo(curve, from), lengthTo(curve, to)];
  return {
    strand: rope.id,
    from,
    to,
    middle: atLength(curve, a + BREAK_AT[end] * (b - a)),
    length: (b - a) / diameterOf(rope),
  };
}

/** No rope is lost: a tail that is drawn shorter than it was has a break that counts what is left out. */
function withBreaks(before: Figure, after: Figure): Figure {
  const ropes = after.ropes.map((rope): Rope => {
    let breaks = rope.breaks ?? [];
    for (const end of [0, 1] as const) {
      if (rope.closed || rope.ends[end] !== 'tail' || rope.trimmed?.[end] === true) continue;
      const now = drawnTail(after, rope, end);
      const own = breaks.filter((b) => b.at > now.from && b.at < now.to);
      const left = drawnTail(before, ropeOf(before, rope.id)!, end).length - now.length;
      const counts = Math.round(10 * (left + own.reduce((all, b) => all + b.counts, 0))) / 10;
      if (left < LEAST_BREAK) continue;
      breaks = [...breaks.filter((b) => !own.includes(b)), { at: now.middle, counts: Math.min(BREAKS.counts, counts) }];
    }
    return breaks.length === 0 ? rope : { ...rope, breaks: [...breaks].sort((p, q) => p.at - q.at) };
  });
  return { ...after, ropes };
}

/** Ends what is straight a little beyond what crosses it; gives the hosts as they lie then. */
function shortened(figure: Figure, net: Net): Host[] {
  const ends = new Map<string, [Point, Point]>();
  for (const line of net.lines) {
    const axis = axisOf(figure, line.id);
    const own = line.nodes.slice(1, -1).map((id) => net.nodes[id]!);
    if (!axis || own.length === 0) continue;
    const [first, last] = [own[0]!, own.at(-1)!];
    const [p, q] = [nodeAt(net, line, 0), nodeAt(net, line, line.nodes.length - 1)];
    [p.x, p.y] = [first.x - BEYOND * axis[0], first.y - BEYOND * axis[1]];
    [q.x, q.y] = [last.x + BEYOND * axis[0], last.y + BEYOND * axis[1]];
    ends.set(line.id, [
      [p.x, p.y],
      [q.x, q.y],
    ]);
  }
  return figure.hosts.map((h): Host => ({ ...h, points: ends.get(h.id) ?? h.points }));
}

/** Settles a figure in one go. */
export const settle = (figure: Figure): Result<Tidied> => runOut(settling(figure, false));
