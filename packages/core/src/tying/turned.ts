/**
 * A rope turned round: what its first end does is what the last end of the turned rope does. Moves are read and told of last ends only.
 */
import { rememberedBy } from '../ground/remembered.js';
import { crossingsOf } from '../figure/crossings.js';
import { applyEdit } from '../figure/edit.js';
import { lastAt, ropeOf, type Rope } from '../figure/figure.js';
import { distance } from '../figure/point.js';
import { onFirstLeg } from './bight-legs.js';
import { isFirstEnd, type EndLeader, type Halt, type Layout, type Leader, type Stretch } from './method.js';
import type { Move } from './move.js';

export interface Turned {
  readonly layout: Layout;
  /** Where a place of the rope lies on the turned rope, and the reverse: it is the same sum. */
  readonly place: (at: number) => number;
  /** The number that a crossing of the turned layout has in the layout itself. */
  readonly crossing: (number: number) => number;
}

/** A layout with one of its ropes turned round, end for end. */
export const turnedRound = rememberedBy((layout: Layout, id: string): Turned => {
  const done = applyEdit(layout.figure, { kind: 'reverse', rope: id });
  const rope = ropeOf(layout.figure, id);
  if (!done.ok || !rope) return { layout, place: (at) => at, crossing: (number) => number };
  const { figure } = done.value;
  const last = lastAt(rope);
  const place = (at: number): number => last - at;
  const leaders = layout.leaders.map((l): Leader => (l.rope === id ? leaderTurned(l, place) : l));
  const strand = ropeOf(figure, id) as Rope;
  const halts = layout.halts.map((h): Halt => {
    const l = leaders[h.leader];
    if (l?.rope !== id) return h;
    return { ...h, at: l.kind === 'bight' ? onFirstLeg(strand, l, place(h.at)) : place(h.at) };
  });
  const [own, others] = [crossingsOf(layout.figure), crossingsOf(figure)];
  const numbers = new Map(
    others.map((c) => {
      const nearest = own.reduce((a, b) => (distance(a.point, c.point) <= distance(b.point, c.point) ? a : b));
      return [c.number, nearest.number];
    }),
  );
  return { layout: { ...layout, figure, leaders, halts }, place, crossing: (number) => numbers.get(number) ?? number };
});

function leaderTurned(leader: Leader, place: (at: number) => number): Leader {
  if (leader.kind === 'bight') return { ...leader, from: place(leader.to), to: place(leader.from) };
  const { leads, ...rest } = leader;
  const turned: EndLeader = { ...rest, from: place(leader.from) };
  return leads === 'first' ? turned : { ...turned, leads: 'first' };
}

/** What a first end lays, as the last end of the turned rope lays it; nothing for any other leader. */
export function turnedFor(layout: Layout, step: Stretch): (Turned & { readonly step: Stretch }) | undefined {
  if (!isFirstEnd(layout.leaders[step.leader])) return undefined;
  const turned = turnedRound(layout, step.rope);
  return { ...turned, step: { ...step, from: turned.place(step.from), to: turned.place(step.to) } };
}

/** Moves read of a turned layout, with the crossings as the layout itself numbers them. */
export const movesFrom = ({ crossing }: Turned, moves: readonly Move[]): Move[] =>
  moves.map((m) => ({ ...m, crossings: m.crossings.map(crossing) }));
