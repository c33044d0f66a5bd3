/**
 * Edits of a method: an edit of its figure, through which leaders and halts are mapped, or a change of halts and texts.
 */
import { LEAST_SPACING } from '../figure/bounds.js';
import { legsAfter } from '../figure/bight.js';
import { applyEdit, type Edit } from '../figure/edit.js';
import { ropeOf, type Figure } from '../figure/figure.js';
import { mapPosition, type Mapping } from '../figure/mapping.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { haltOrder, leaderEnd, type Halt, type Leader, type Method } from './method.js';

export type MethodEdit =
  | { readonly kind: 'figure'; readonly edit: Edit }
  | { readonly kind: 'place-halt'; readonly leader: number; readonly at: number }
  | { readonly kind: 'move-halt'; readonly index: number; readonly at: number }
  | { readonly kind: 'remove-halt'; readonly index: number }
  /** The author's own text for a step; `undefined` sets it back to the composed one. */
  | { readonly kind: 'set-text'; readonly index: number; readonly text: string | undefined }
  | { readonly kind: 'restore'; readonly method: Method };

export interface AppliedMethod {
  readonly method: Method;
  readonly inverse: MethodEdit;
}

export const HALT_LIMIT = 60;
export const TEXT_LIMIT = 600;

/** Applies an edit. The method given is never changed; the inverse holds it whole, sharing all that did not change. */
export function applyMethodEdit(method: Method, edit: MethodEdit): Result<AppliedMethod> {
  const done = (next: Method): Result<AppliedMethod> => accept({ method: next, inverse: { kind: 'restore', method } });
  switch (edit.kind) {
    case 'figure': {
      const applied = applyEdit(method.figure, edit.edit);
      if (!applied.ok) return applied;
      const { figure, mapping } = applied.value;
      return done(withBight(follow(method, figure, mapping), edit.edit, mapping));
    }
    case 'place-halt': {
      const leader = method.leaders[edit.leader];
      if (!leader) return refuse('halt', 'There is no such leader.', 'Lay a rope first.');
      if (method.halts.length >= HALT_LIMIT)
        return refuse('halt', `A method has ${HALT_LIMIT} steps at most.`, 'Make it two methods.');
      const at = Math.min(edit.at, leaderEnd(method, edit.leader));
      if (!(at > leader.from))
        return refuse(
          `halt at ${edit.at.toFixed(2)}`,
          'A halt stands after the place where its rope begins.',
          'Put it farther along the trail.',
        );
      if (method.halts.some((h) => h.leader === edit.leader && Math.abs(h.at - at) < LEAST_SPACING))
        return refuse(
          `halt at ${at.toFixed(2)}`,
          'There is a halt there already.',
          'Lay the end farther on, or choose another place.',
        );
      return done({ ...method, halts: [...method.halts, { leader: edit.leader, at }].sort(haltOrder) });
    }
    case 'move-halt': {
      const halt = method.halts[edit.index];
      if (!halt) return refuse('halt', 'There is no such halt.', 'Choose one on the trail.');
      const leader = method.leaders[halt.leader] as Leader;
      const neighbours = [method.halts[edit.index - 1], method.halts[edit.index + 1]];
      const [before, after] = neighbours.map((h) => (h?.leader === halt.leader ? h.at : undefined));
      const low = (before ?? leader.from) + LEAST_SPACING;
      const high = after === undefined ? leaderEnd(method, halt.leader) : after - LEAST_SPACING;
      const at = Math.min(high, Math.max(low, edit.at));
      return done({ ...method, halts: method.halts.map((h, i) => (i === edit.index ? { ...h, at } : h)) });
    }
    case 'remove-halt':
      if (!method.halts[edit.index]) return refuse('halt', 'There is no such halt.', 'Choose one on the trail.');
      return done({ ...method, halts: method.halts.filter((_, i) => i !== edit.index) });
    case 'set-text': {
      if (!method.halts[edit.index]) return refuse('step', 'There is no such step.', 'Choose one in the step column.');
      if ((edit.text?.length ?? 0) > TEXT_LIMIT)
        return refuse(
          `step ${edit.index + 1}`,
          `A step text has ${TEXT_LIMIT} characters at most.`,
          'Split the step or say it shorter.',
        );
      const halts = method.halts.map((h, i): Halt =>
        i !== edit.index ? h : edit.text === undefined ? { leader: h.leader, at: h.at } : { ...h, text: edit.text },
      );
      return done({ ...method, halts });
    }
    case 'restore':
      return done(edit.method);
  }
}

/** A leader carried through a mapping; nothing when its rope, or its bight, is gone. */
function followLeader(leader: Leader, figure: Figure, mapping: Mapping): Leader | undefined {
  if (!ropeOf(figure, leader.rope)) return undefined;
  const at = (place: number): number | undefined => mapPosition(mapping, { strand: leader.rope, at: place })?.at;
  const reversed = (mapping.get(leader.rope) ?? []).some(({ to }) => to[0] > to[1]);
  if (leader.kind === 'end') return { ...leader, from: reversed ? 0 : (at(leader.from) ?? 0) };
  const [a, b] = [at(leader.from), at(leader.to)];
  if (a === undefined || b === undefined || Math.abs(b - a) < LEAST_SPACING) return undefined;
  return { ...leader, from: Math.min(a, b), to: Math.max(a, b) };
}

/** Leaders and halts carried over to an edited figure; a rope that is new gets a leader of its own, last in order. */
function follow(method: Method, figure: Figure, mapping: Mapping): Method {
  const kept: number[] = [];
  const leaders: Leader[] = [];
  method.leaders.forEach((l, i) => {
    const carried = followLeader(l, figure, mapping);
    if (!carried) return;
    kept[i] = leaders.length;
    leaders.push(carried);
  });
  for (const rope of figure.ropes) {
    if (!rope.closed && !leaders.some((l) => l.kind === 'end' && l.rope === rope.id))
      leaders.push({ kind: 'end', rope: rope.id, from: 0 });
  }
  const next: Method = { ...method, figure, leaders, halts: [] };
  const halts = method.halts
    .flatMap((h): Halt[] => {
      const leader = kept[h.leader];
      const rope = method.leaders[h.leader]?.rope ?? '';
      if (leader === undefined) return [];
      const end = leaderEnd(next, leader);
      const at = mapPosition(mapping, { strand: rope, at: h.at })?.at ?? end;
      return at > (leaders[leader] as Leader).from ? [{ ...h, leader, at: Math.min(at, end) }] : [];
    })
    .sort(haltOrder)
    // Two halts pushed onto one place by a removed point are one step.
    .filter((h, i, all) => i === 0 || h.leader !== all[i - 1]?.leader || h.at - (all[i - 1] as Halt).at > 1e-9);
  return { ...next, halts };
}

/** A bight that was drawn out becomes a leader, the last in order. */
function withBight(method: Method, edit: Edit, mapping: Mapping): Method {
  if (edit.kind !== 'bight') return method;
  const legs = legsAfter(mapping, edit.rope);
  return legs ? { ...method, leaders: [...method.leaders, { kind: 'bight', rope: edit.rope, ...legs }] } : method;
}

/** A method for a figure that has none: every open rope is laid from its start, in order. */
export const methodFor = (figure: Figure): Method => follow({ figure, leaders: [], halts: [] }, figure, new Map());
