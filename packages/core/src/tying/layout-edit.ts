/**
 * Edits of a layout: of its figure, through which leaders, halts and callouts are mapped, and of its steps.
 */
import { LEAST_SPACING } from '../figure/bounds.js';
import { legsAfter } from '../figure/bight.js';
import { applyEdit, type Edit } from '../figure/edit.js';
import type { Mapping } from '../figure/mapping.js';
import { accept, refuse, type Refusal, type Result } from '../figure/refusal.js';
import { cutMoves, proposedHalts } from './propose.js';
import { passagesInStep } from './read-moves.js';
import { follow } from './follow.js';
import { HALT_LIMIT } from './limits.js';
import {
  extentsAt,
  isFirstEnd,
  leaderEnd,
  stretchesOf,
  wayOf,
  type Again,
  type Finish,
  type FinishKind,
  type Halt,
  type Layout,
  type Leader,
  type Telling,
} from './method.js';
import { shownTrouble, type Shown } from '../dressing/shown.js';
import { renumber, tellingTrouble, told } from './telling.js';

/** Edits of a layout's steps. A step's index counts the layout's halts and then what finishes it. */
export type StepEdit =
  | { readonly kind: 'place-halt'; readonly leader: number; readonly at: number }
  | { readonly kind: 'move-halt'; readonly index: number; readonly at: number }
  | { readonly kind: 'remove-step'; readonly index: number }
  /** The author's own text for a step; `undefined` sets it back to the composed one. */
  | { readonly kind: 'set-text'; readonly index: number; readonly text: string | undefined }
  /** Changes what a step shows; `undefined` sets a thing back. */
  | { readonly kind: 'tell'; readonly index: number; readonly telling: Telling }
  /** A step earlier or later in the order of tying. */
  | { readonly kind: 'move-step'; readonly index: number; readonly by: 1 | -1 }
  /** One step made two, halfway among what it passes. */
  | { readonly kind: 'split-step'; readonly index: number }
  /** Halts where moves end, for every leader that has none. */
  | { readonly kind: 'propose-halts' }
  /** A step that ends within a move goes on to the end of it. */
  | { readonly kind: 'whole-move'; readonly index: number }
  /** A step and the next one of its leader made one, with a text for both. */
  | { readonly kind: 'join-step'; readonly index: number; readonly text?: string | undefined }
  | { readonly kind: 'set-again'; readonly index: number; readonly again: Again | undefined }
  /** The marks of the inspection card, in its order; the wrong ways shown to learners. */
  | { readonly kind: 'show'; readonly shown: Shown }
  /** Steps that dress, set or check the knot, each after those of its kind. */
  | { readonly kind: 'add-finish'; readonly finish: readonly FinishKind[] };

/** Edits of one layout: of its figure, through which leaders, halts and callouts are mapped, or of its steps. */
export type LayoutEdit =
  | Edit
  | StepEdit
  /** What was tried out on a copy of the layout, put in its place. */
  | { readonly kind: 'take-layout'; readonly layout: Layout };

export const FINISH_ORDER = ['dress', 'set', 'check'] as const satisfies readonly FinishKind[];

const noStep = (): Refusal => refuse('step', 'There is no such step.', 'Choose one in the step column.');

/** A layout after an edit of its figure or of its steps. */
export function changeLayout<L extends Layout>(layout: L, edit: LayoutEdit): Result<L> {
  switch (edit.kind) {
    case 'place-halt':
    case 'move-halt':
    case 'remove-step':
    case 'set-text':
    case 'tell':
    case 'move-step':
    case 'split-step':
    case 'propose-halts':
    case 'whole-move':
    case 'join-step':
    case 'set-again':
    case 'add-finish':
    case 'show':
      return changeSteps(layout, edit);
    case 'take-layout':
      return accept({ ...layout, ...edit.layout });
    default: {
      const applied = applyEdit(layout.figure, edit);
      if (!applied.ok) return applied;
      const { figure, mapping } = applied.value;
      return accept(withFirstEnd(withBight(follow(layout, figure, mapping), edit, mapping), edit));
    }
  }
}

function changeSteps<L extends Layout>(layout: L, edit: StepEdit): Result<L> {
  const done = (change: Partial<Layout>): Result<L> => accept({ ...layout, ...change });
  const { halts } = layout;
  const finish = layout.finish ?? [];
  /** The layout with one step changed, wherever it stands. */
  const withStep = (index: number, change: <T extends Telling>(step: T) => T): Result<L> =>
    index < halts.length
      ? done({ halts: halts.map((h, i) => (i === index ? change(h) : h)) })
      : done({ finish: finish.map((f, i) => (i === index - halts.length ? change(f) : f)) });
  if ('index' in edit && !(halts[edit.index] ?? finish[edit.index - halts.length])) return noStep();
  switch (edit.kind) {
    case 'place-halt':
      return placeHalt(layout, edit.leader, edit.at);
    case 'move-halt': {
      const halt = halts[edit.index];
      if (!halt) return refuse('halt', 'This step lays nothing; it has no halt.', 'Choose a halt on the trail.');
      const leader = layout.leaders[halt.leader] as Leader;
      const own = halts.filter((h) => h.leader === halt.leader);
      // Counted along the way the leader goes.
      const way = wayOf(leader);
      const before = (own[own.indexOf(halt) - 1]?.at ?? leader.from) * way;
      const after = own[own.indexOf(halt) + 1]?.at;
      const high = after === undefined ? leaderEnd(layout, halt.leader) * way : after * way - LEAST_SPACING;
      const at = Math.min(high, Math.max(before + LEAST_SPACING, edit.at * way)) * way;
      return done({ halts: halts.map((h, i) => (i === edit.index ? { ...h, at } : h)) });
    }
    case 'remove-step':
      if (edit.index >= halts.length) return done(finishing(finish.filter((_, i) => i !== edit.index - halts.length)));
      return done({
        halts: renumber(
          halts.filter((_, i) => i !== edit.index),
          (was) => (was === edit.index ? undefined : was > edit.index ? was - 1 : was),
        ),
      });
    case 'set-text':
    case 'tell': {
      const telling = edit.kind === 'tell' ? edit.telling : { text: edit.text };
      return tellingTrouble(`step ${edit.index + 1}`, telling) ?? withStep(edit.index, (step) => told(step, telling));
    }
    case 'move-step':
      return moveStep(layout, edit.index, edit.by);
    case 'split-step':
      return splitStep(layout, edit.index);
    case 'propose-halts':
      return proposeHalts(layout);
    case 'whole-move':
      return wholeMove(layout, edit.index);
    case 'join-step':
      return joinStep(layout, edit.index, edit.text);
    case 'set-again': {
      const halt = halts[edit.index];
      if (!halt) return refuse('step', 'A step that lays nothing repeats nothing.', 'Choose a step that lays rope.');
      if (edit.again && !(edit.again.of >= 0 && edit.again.of < edit.index))
        return refuse(
          `step ${edit.index + 1}`,
          'A step does again what an earlier one of its layout did.',
          'Name an earlier step.',
        );
      const { again: _old, ...rest } = halt;
      const next: Halt = edit.again ? { ...rest, again: edit.again } : rest;
      return done({ halts: halts.map((h, i) => (i === edit.index ? next : h)) });
    }
    case 'show':
      return shownTrouble(edit.shown) ?? done(edit.shown);
    case 'add-finish': {
      const rank = (kind: FinishKind): number => FINISH_ORDER.indexOf(kind);
      if (halts.length + finish.length + edit.finish.length > HALT_LIMIT) return tooManySteps();
      return done({
        finish: edit.finish.reduce<readonly Finish[]>((all, kind) => {
          const at = all.filter((f) => rank(f.kind) <= rank(kind)).length;
          return [...all.slice(0, at), { kind }, ...all.slice(at)];
        }, finish),
      });
    }
  }
}

const finishing = (finish: readonly Finish[]): Partial<Layout> => ({ finish: finish.length > 0 ? finish : undefined });

const tooManySteps = (): Refusal => refuse('halt', `A method has ${HALT_LIMIT} steps at most.`, 'Make it two methods.');

function placeHalt<L extends Layout>(layout: L, index: number, wanted: number): Result<L> {
  const leader = layout.leaders[index];
  const { halts } = layout;
  if (!leader) return refuse('halt', 'There is no such leader.', 'Lay a rope first.');
  if (halts.length + (layout.finish?.length ?? 0) >= HALT_LIMIT) return tooManySteps();
  const end = leaderEnd(layout, index);
  const way = wayOf(leader);
  const at = Math.min(wanted * way, end * way) * way;
  if (!((at - leader.from) * way > 0))
    return refuse(
      `halt at ${wanted.toFixed(2)}`,
      (end - leader.from) * way <= 0
        ? 'All of this rope is laid before this layout begins.'
        : 'A halt stands after the place where its rope begins.',
      'Put it farther along the trail.',
    );
  if (halts.some((h) => h.leader === index && Math.abs(h.at - at) < LEAST_SPACING))
    return refuse(
      `halt at ${at.toFixed(2)}`,
      'There is a halt there already.',
      'Lay the end farther on, or choose another place.',
    );
  const next = halts.findIndex((h) => h.leader === index && (h.at - at) * way > 0);
  // A leader that goes on after others have moved moves last; one that has no halt yet comes before those that began after it.
  const begun = halts.some((h) => h.leader === index);
  const later = begun ? -1 : halts.findIndex((h) => h.leader > index);
  const place = next >= 0 ? next : later >= 0 ? later : halts.length;
  const placed = [...halts.slice(0, place), { leader: index, at }, ...halts.slice(place)];
  return accept({ ...layout, halts: renumber(placed, (was) => (was >= place ? was + 1 : was)) });
}

function proposeHalts<L extends Layout>(layout: L): Result<L> {
  const without = layout.leaders.flatMap((l, k) =>
    layout.halts.some((h) => h.leader === k) || (leaderEnd(layout, k) - l.from) * wayOf(l) <= 0 ? [] : [k],
  );
  if (without.length === 0)
    return refuse('halts', 'Every end that is laid has its steps already.', 'Take the halts of one away first.');
  let done = layout;
  for (const leader of without)
    for (const at of proposedHalts(done, leader, leaderEnd(done, leader))) {
      const placed = placeHalt(done, leader, at);
      if (!placed.ok) return placed;
      done = placed.value;
    }
  return accept(done);
}

/** Moves the halt to where the move ends that it cuts; steps that end within the move are joined with it. */
function wholeMove<L extends Layout>(layout: L, index: number): Result<L> {
  const cut = cutMoves(layout).find((c) => c.index === index);
  if (!cut) return refuse(`step ${index + 1}`, 'It ends where a move ends.', 'There is nothing to mend.');
  let done = layout;
  for (;;) {
    const { halts } = done;
    const own = halts[index] as Halt;
    const way = wayOf(layout.leaders[own.leader]);
    if ((own.at - cut.after) * way >= -LEAST_SPACING) return accept(done);
    const next = halts.findIndex((h, k) => k > index && h.leader === own.leader);
    if (next < 0 || ((halts[next]?.at ?? 0) - cut.after) * way > LEAST_SPACING)
      return accept({ ...done, halts: halts.map((h, k) => (k === index ? { ...h, at: cut.after } : h)) });
    const texts = [own.text, halts[next]?.text].filter((t) => t !== undefined);
    const joined = joinStep(done, index, texts.length > 0 ? texts.join(' ') : undefined);
    if (!joined.ok) return joined;
    done = joined.value;
  }
}

/** Why steps cannot come in this order: a bight is drawn from rope that is not laid yet. */
function orderTrouble(layout: Layout): Refusal | undefined {
  for (const [k, halt] of layout.halts.entries()) {
    const leader = layout.leaders[halt.leader];
    if (leader?.kind !== 'bight') continue;
    const laid = extentsAt(layout, k, halt.at).get(leader.rope)?.to ?? Infinity;
    if (laid < leader.to - 1e-6)
      return refuse(
        `step ${k + 1}`,
        'It draws a bight from rope that is not laid by then.',
        'Lay the rope first; then the bight can be drawn out of it.',
      );
  }
  return undefined;
}

function moveStep<L extends Layout>(layout: L, index: number, by: 1 | -1): Result<L> {
  const { halts } = layout;
  const finish = layout.finish ?? [];
  const other = index + by;
  const swap = <T>(list: readonly T[], i: number, j: number): T[] =>
    list.map((x, n) => (n === i ? (list[j] as T) : n === j ? (list[i] as T) : x));
  if (other < 0 || other >= halts.length + finish.length)
    return refuse(`step ${index + 1}`, `It is the ${by === 1 ? 'last' : 'first'} of its layout.`, 'It stays there.');
  if (index >= halts.length !== other >= halts.length)
    return refuse(
      `step ${index + 1}`,
      'A knot is dressed, set and checked after it is laid.',
      'Steps that lay rope come first.',
    );
  if (index >= halts.length)
    return accept({ ...layout, finish: swap(finish, index - halts.length, other - halts.length) });
  if (halts[index]?.leader === halts[other]?.leader)
    return refuse(
      `steps ${Math.min(index, other) + 1} and ${Math.max(index, other) + 1}`,
      'Both lay the same end, and it goes along its trail one way.',
      'Move a halt along the trail instead, or change what it lays.',
    );
  const moved: L = {
    ...layout,
    halts: renumber(swap(halts, index, other), (was) => (was === index ? other : was === other ? index : was)),
  };
  return orderTrouble(moved) ?? accept(moved);
}

/** Sentences of a text. */
const sentences = (text: string): string[] => text.match(/[^.!?]+[.!?]*\s*/g)?.map((s) => s.trim()) ?? [];

function splitStep<L extends Layout>(layout: L, index: number): Result<L> {
  const stretch = stretchesOf(layout)[index];
  if (!stretch) return refuse('step', 'A step that lays nothing cannot be split.', 'Choose one that lays rope.');
  const places = passagesInStep(layout, stretch).map((p) => p.at);
  const half = places.length >> 1;
  const [before, after] = places.length > 1 ? [places[half - 1], places[half]] : [stretch.from, stretch.to];
  const at = ((before ?? stretch.from) + (after ?? stretch.to)) / 2;
  const placed = placeHalt(layout, stretch.leader, at);
  if (!placed.ok) return placed;
  const [own, said] = [layout.halts[index] as Halt, sentences(layout.halts[index]?.text ?? '')];
  // What the whole step told stays with its second part; of its own text, the first sentences go with the first part.
  const cut = said.length >> 1;
  const halts = placed.value.halts.map((h, i): Halt => {
    if (i === index && cut > 0) return { ...h, text: said.slice(0, cut).join(' ') };
    if (i === index + 1 && cut > 0) return { ...own, at: h.at, text: said.slice(cut).join(' ') };
    return h;
  });
  return accept({ ...placed.value, halts });
}

function joinStep<L extends Layout>(layout: L, index: number, text: string | undefined): Result<L> {
  const { halts } = layout;
  const [one, two] = [halts[index], halts[index + 1]];
  if (!one || !two)
    return refuse(`step ${index + 1}`, 'No step that lays rope comes after it.', 'Join it with the one before.');
  if (one.leader !== two.leader)
    return refuse(
      `steps ${index + 1} and ${index + 2}`,
      'They lay different ends.',
      'Two steps are joined when one end goes on in both.',
    );
  const callouts = [...(one.callouts ?? []), ...(two.callouts ?? [])];
  const lit = [...(one.lit ?? []), ...(two.lit ?? [])];
  const joined = told<Halt>(two, {
    text,
    ...(callouts.length > 0 ? { callouts } : {}),
    ...(lit.length > 0 ? { lit } : {}),
  });
  const trouble = tellingTrouble(`step ${index + 1}`, joined);
  if (trouble) return trouble;
  return accept({
    ...layout,
    halts: renumber([...halts.slice(0, index), joined, ...halts.slice(index + 2)], (was) =>
      was > index ? was - 1 : was,
    ),
  });
}

/** A rope whose first end was laid on is led by both from where the other began. */
function withFirstEnd<L extends Layout>(layout: L, edit: Edit): L {
  if (edit.kind !== 'first-end') return layout;
  const { rope } = edit.laid;
  const ends = layout.leaders.filter((l) => l.kind === 'end' && l.rope === rope);
  const from = ends[0]?.from;
  if (from === undefined || ends.some(isFirstEnd)) return layout;
  return { ...layout, leaders: [...layout.leaders, { kind: 'end', rope, from, leads: 'first' }] };
}

/** A bight that was drawn out becomes a leader, the last in order. */
function withBight<L extends Layout>(layout: L, edit: Edit, mapping: Mapping): L {
  if (edit.kind !== 'bight') return layout;
  const legs = legsAfter(mapping, edit.rope);
  return legs ? { ...layout, leaders: [...layout.leaders, { kind: 'bight', rope: edit.rope, ...legs }] } : layout;
}
