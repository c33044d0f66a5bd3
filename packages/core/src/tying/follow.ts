/**
 * Leaders and halts that follow their figure when it is drawn otherwise.
 */
import { LEAST_SPACING } from '../figure/bounds.js';
import { lastAt, ropeOf, type Figure } from '../figure/figure.js';
import { mapPosition, type Mapping } from '../figure/mapping.js';
import {
  inTrailOrder,
  isFirstEnd,
  isLed,
  leaderEnd,
  wayOf,
  type Halt,
  type Layout,
  type Leader,
  type Method,
} from './method.js';
import { followShown } from '../dressing/shown.js';
import { carryTelling, renumber } from './telling.js';

/** A leader carried through a mapping; nothing when its rope, or its bight, is gone. */
function followLeader(leader: Leader, figure: Figure, mapping: Mapping, ledByBoth: boolean): Leader | undefined {
  const rope = ropeOf(figure, leader.rope);
  if (!rope) return undefined;
  const at = (place: number): number | undefined => mapPosition(mapping, { strand: leader.rope, at: place })?.at;
  const reversed = (mapping.get(leader.rope) ?? []).some(({ to }) => to[0] > to[1]);
  if (leader.kind === 'end' && reversed && ledByBoth) {
    const { leads, ...rest } = leader;
    const turned = { ...rest, from: at(leader.from) ?? 0 };
    return leads === 'first' ? turned : { ...turned, leads: 'first' };
  }
  if (leader.kind === 'end')
    return { ...leader, from: reversed ? (leader.from > 0 ? lastAt(rope) : 0) : (at(leader.from) ?? 0) };
  const [a, b] = [at(leader.from), at(leader.to)];
  if (a === undefined || b === undefined || Math.abs(b - a) < LEAST_SPACING) return undefined;
  return { ...leader, from: Math.min(a, b), to: Math.max(a, b) };
}

/** Leaders, halts and what is shown, carried over to an edited figure; a rope that is new gets a leader of its own, last in order. */
export function follow<L extends Layout>(layout: L, figure: Figure, mapping: Mapping): L {
  const kept: number[] = [];
  const leaders: Leader[] = [];
  layout.leaders.forEach((l, i) => {
    const ledByBoth = layout.leaders.some((other) => isFirstEnd(other) && other.rope === l.rope);
    const carried = followLeader(l, figure, mapping, ledByBoth);
    if (!carried) return;
    kept[i] = leaders.length;
    leaders.push(carried);
  });
  for (const rope of figure.ropes) {
    if (!rope.closed && !isLed(leaders, rope)) leaders.push({ kind: 'end', rope: rope.id, from: 0 });
  }
  const next: L = { ...layout, ...followShown(layout, layout.figure, figure, mapping), figure, leaders, halts: [] };
  const carried = layout.halts.flatMap((h, was): { was: number; halt: Halt }[] => {
    const leader = kept[h.leader];
    const rope = layout.leaders[h.leader]?.rope ?? '';
    if (leader === undefined) return [];
    const end = leaderEnd(next, leader);
    const at = mapPosition(mapping, { strand: rope, at: h.at })?.at ?? end;
    const now = leaders[leader] as Leader;
    const way = wayOf(now);
    return (at - now.from) * way > 0
      ? [{ was, halt: carryTelling({ ...h, leader, at: way > 0 ? Math.min(at, end) : Math.max(at, end) }, mapping) }]
      : [];
  });
  const wasOf = new Map(carried.map(({ was, halt }) => [halt, was]));
  // Two halts pushed onto one place by a removed point are one step.
  const halts = inTrailOrder(
    carried.map((c) => c.halt),
    leaders,
  ).filter(
    (h, i, all) =>
      !all.slice(0, i).some((o) => o.leader === h.leader && (h.at - o.at) * wayOf(leaders[h.leader]) <= 1e-9),
  );
  const now = new Map(halts.map((h, i) => [wasOf.get(h) as number, i]));
  const finish = layout.finish?.map((f) => carryTelling(f, mapping));
  return { ...next, halts: renumber(halts, (was) => now.get(was)), ...(finish ? { finish } : {}) };
}

/** A layout for a figure that has none: every open rope is laid from its start, in order. */
export const methodFor = (figure: Figure): Method =>
  follow<Method>({ figure, leaders: [], halts: [] }, figure, new Map());
