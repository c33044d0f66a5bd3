/**
 * Halts where moves end: those that are proposed, and those that stand within a move.
 */
import { atLength, curveOf, lengthTo } from '../figure/curve.js';
import { ropeOf, type Rope } from '../figure/figure.js';
import { isFirstEnd, stretchesOf, type Layout, type Stretch } from './method.js';
import type { Move } from './move.js';
import { followed, movesIn, toldBy, toldOf, type LeastFollowed } from './moves.js';
import { lengthBetween } from './parts.js';
import type { Found, Met } from './read-moves.js';
import { turnedFor, turnedRound } from './turned.js';

/** When the rest of what a leader lays is a strand followed, and a step of its own. */
const ALL_FOLLOWED: LeastFollowed = { passages: 6, share: 0.5, length: 15 };

/** A step that ends within a move: where the move ends, on the same leader. */
export interface CutMove {
  /** Index of the halt. */
  readonly index: number;
  readonly move: Move;
  /** Where a halt would stand after the whole of it. */
  readonly after: number;
}

/** How far after a passage a halt stands, in diameters, where the rope has room: the end is seen to have passed. */
const PAST = 2;

/** A little beyond a move's last passage, but not beyond half way to the next passage of its leader. */
function afterMove(rope: Rope, met: readonly Met[], to: number, end: number): number {
  const last = met[to - 1]?.at ?? 0;
  const next = met[to]?.at;
  if (next === undefined) return end;
  const curve = curveOf(rope);
  return Math.min((last + next) / 2, atLength(curve, lengthTo(curve, last) + PAST));
}

/** Steps that cut a move in two. Turns may be laid over several steps: each is a move of its own. */
export const cutMoves = (layout: Layout): CutMove[] =>
  stretchesOf(layout).flatMap((step) => cutMove(layout, step) ?? []);

function cutMove(layout: Layout, step: Stretch): CutMove | undefined {
  const turned = turnedFor(layout, step);
  if (turned) {
    const cut = cutMove(turned.layout, turned.step);
    return cut && { ...cut, after: turned.place(cut.after) };
  }
  const { met, found } = toldOf(layout, step);
  const past = met.findIndex((m) => m.at > step.to + 1e-9);
  if (past < 0) return undefined;
  const cut = found.find((f) => f.from < past && f.to > past);
  if (!cut || cut.move.kind === 'turns' || cut.move.kind === 'pass') return undefined;
  if (cut.move.kind === 'through' && cut.move.deep === undefined && (past - cut.from) % 2 === 0) return undefined;
  if (movesIn(layout, step)[0]?.kind === 'follow') return undefined;
  const end = layout.halts.filter((h) => h.leader === step.leader).at(-1)?.at ?? step.to;
  const after = afterMove(ropeOf(layout.figure, step.rope) as Rope, met, cut.to, end);
  return { index: step.index, move: cut.move, after };
}

/** Where the halts of a leader would stand if each move were a step; the last at the end of what it lays. */
export function proposedHalts(layout: Layout, leader: number, end: number): number[] {
  const own = layout.leaders[leader];
  if (own && isFirstEnd(own)) {
    const turned = turnedRound(layout, own.rope);
    return proposedHalts(turned.layout, leader, turned.place(end)).map(turned.place);
  }
  // One halt at the end, where its first one stands in the order of tying.
  const first = layout.halts.findIndex((h) => h.leader === leader);
  const only: Layout = {
    ...layout,
    halts: [
      ...layout.halts.flatMap((h, k) => (h.leader !== leader ? [h] : k === first ? [{ leader, at: end }] : [])),
      ...(first < 0 ? [{ leader, at: end }] : []),
    ],
  };
  const read = toldBy(only)[leader];
  const rope = ropeOf(layout.figure, layout.leaders[leader]?.rope ?? '');
  if (!read || !rope) return [];
  const { met, found } = read;
  const stretch = stretchesOf(only).find((s) => s.leader === leader);
  // A knot on the way to a bend is one step.
  if (layout.figure.ropes.length > 1 && isOverhand(found)) return [end];
  const places: number[] = [];
  let passed = 0;
  for (const [k, f] of found.entries()) {
    const start = places.at(-1) ?? stretch?.from ?? 0;
    if (stretch && passed === 0 && followed(only, { ...stretch, from: start }, met.length - f.from, ALL_FOLLOWED)) {
      // What leads there is a step of its own when it is long.
      const first = met[f.from]?.at ?? end;
      if (places.length > 0 && lengthBetween(rope, start, first) > LEADS_THERE)
        places.push(atLength(curveOf(rope), lengthTo(curveOf(rope), first) - 1));
      break;
    }
    passed += f.to - f.from;
    const next = found[k + 1]?.move;
    if (!next) break;
    // What is crossed on the way to a move belongs to it, as does a tuck at the end.
    const leadsOn = f.move.kind === 'pass' && passed < ENOUGH;
    const isTuck = next.kind === 'pass' && k + 2 === found.length && f.move.kind !== 'hitch';
    if (leadsOn || isTuck) continue;
    places.push(afterMove(rope, met, f.to, end));
    passed = 0;
  }
  return [...places, end];
}

const isOverhand = (found: readonly Found[]): boolean =>
  found.length === 2 &&
  found[0]?.move.kind === 'loop' &&
  found[1]?.move.kind === 'through' &&
  found[1].move.times === 1 &&
  found[1].move.deep === undefined;

/** A stretch longer than this, in diameters, that leads to a strand to be followed is a step. */
const LEADS_THERE = 6;
/** So many crossings are enough for one step. */
const ENOUGH = 3;
