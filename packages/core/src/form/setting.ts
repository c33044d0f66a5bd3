/**
 * What of a knot is set, and how. Apart from the setting itself: a page that only asks what would be set need not load what sets it.
 */
import { mirroredDressing, type Dressing } from '../dressing/dressed.js';
import { grippingTurns } from '../dressing/winding.js';
import { passagesOf } from '../figure/crossings.js';
import type { Figure, Rope } from '../figure/figure.js';
import { remembered } from '../ground/remembered.js';
import { mirror } from '../topology/views.js';
import { leaderEnd, finishedLayout, layoutsOf, slipBights, type Layout, type Method } from '../tying/method.js';

/** How a knot is set: what is pulled, what is nudged, and what stays open. */
export interface SetWishes extends Partial<Omit<Dressing, 'name'>> {
  /** How long the loop round a host stays open, in diameters, where a hitch grips its own rope; absent: it closes on the host. */
  readonly loop?: number | undefined;
  /** So many times as many beads as usual, for what is to be measured more finely; it takes the longer. */
  readonly finer?: number | undefined;
}

/** The layout of a method that is set: its first without a hand in it, from which the dressed knot is computed; the last where all have. */
export const layoutToSet = (method: Method): Layout =>
  layoutsOf(method).find((l) => l.figure.hosts.every((h) => h.kind !== 'hand')) ?? finishedLayout(method);

/** Whether a bight stands out by itself at a place: both its legs go through beside each other, and nothing goes through it. */
function standsOut(figure: Figure, rope: string, apex: number): boolean {
  const own = passagesOf(figure, rope);
  const [before, after] = [own.filter((p) => p.at < apex).at(-1), own.find((p) => p.at > apex)];
  if (before === undefined || after === undefined) return false;
  if (before.over !== after.over || before.other.strand !== after.other.strand) return false;
  const [from, to] = [before.other.at, after.other.at].sort((a, b) => a - b) as [number, number];
  return !passagesOf(figure, before.other.strand).some((p) => p.at > from + 1e-9 && p.at < to - 1e-9);
}

/** The figures made of a figure by holding places of it, by those places: asked twice it is the same one, and not set again. */
const heldOf = remembered((_figure: Figure) => new Map<string, Figure>());

/** The figure of a layout as it is set. A bight by which it is slipped is held as an eye is: its tail, drawn up, would draw it out. */
export function figureSet(layout: Layout): Figure {
  const { figure, leaders } = layout;
  const held = slipBights(layout)
    .map((bight) => ({ strand: bight.rope, at: leaderEnd(layout, leaders.indexOf(bight)) }))
    .filter(({ strand, at }) => standsOut(figure, strand, at));
  if (held.length === 0) return figure;
  const known = heldOf(figure);
  const key = JSON.stringify(held);
  const made = known.get(key) ?? {
    ...figure,
    ropes: figure.ropes.map((r): Rope => {
      const eyes = held.filter((h) => h.strand === r.id).map((h) => h.at);
      return eyes.length === 0 ? r : { ...r, eyes: [...(r.eyes ?? []), ...eyes] };
    }),
  };
  known.set(key, made);
  return made;
}

/** What of a method is set. */
export const figureToSet = (method: Method): Figure => figureSet(layoutToSet(method));

/** A figure, and how it is set. */
export interface Setting {
  readonly figure: Figure;
  readonly wishes: SetWishes;
}

/** A figure, set by one way to dress it; without one as it comes when all is pulled at once. */
export const settingFor = (figure: Figure, dressing?: Dressing): Setting => ({
  figure,
  wishes: wishesFor(figure, dressing),
});

/** How a method's knot is set: by the way of dressing that its author says is right. */
export function howToSet(method: Method): Setting {
  return settingFor(figureToSet(method), layoutToSet(method).dressings?.[0]);
}

/** What the other hand sets. */
export const mirroredSetting = ({ figure, wishes }: Setting): Setting => ({
  figure: mirror(figure),
  wishes: mirroredDressing(wishes),
});

/** A setting in a few letters: two of one figure with the same key are the same. */
export const wishesKey = ({ wishes }: Setting): string => JSON.stringify(wishes);

export const sameSetting = (a: Setting | undefined, b: Setting | undefined): boolean =>
  a === b || (a !== undefined && a.figure === b?.figure && wishesKey(a) === wishesKey(b));

/** How long the loop round a host stays where a hitch grips its own rope, in diameters. */
const GRIPPED_LOOP = 6;

/** How a figure is set when nothing else is wished: a hitch that grips its own standing part keeps its loop open. */
export function wishesFor(figure: Figure, dressing?: Dressing): SetWishes {
  const { name: _name, ...way } = dressing ?? { name: '' };
  const grips = figure.hosts.length > 0 && figure.ropes.some((r) => grippingTurns(figure, r) !== undefined);
  return grips ? { ...way, loop: GRIPPED_LOOP } : way;
}
