/**
 * What of a knot is set, and how. Apart from the setting itself: a page that only asks what would be set need not load what sets it.
 */
import { mirroredDressing, type Dressing } from '../dressing/dressed.js';
import { grippingTurns } from '../dressing/winding.js';
import type { Figure } from '../figure/figure.js';
import { mirror } from '../topology/views.js';
import { figureSet } from '../tying/held-bights.js';
import { finishedLayout, layoutsOf, type Layout, type Method } from '../tying/method.js';

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
