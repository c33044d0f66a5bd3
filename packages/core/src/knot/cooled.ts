/**
 * Knots that are kept for undo. What was worked out of a figure (its curves, crossings, passages) is remembered with it, and weighs forty
 * times what the figure does; a kept knot that nobody looks at is kept without.
 */
import type { Figure } from '../figure/figure.js';
import { remembered } from '../ground/remembered.js';
import type { Method } from '../tying/method.js';
import type { KnotDocument } from './document.js';

/** The same figure, of which nothing is remembered: its points are its own. Figures that are one stay one. */
const cold = remembered((figure: Figure): Figure => structuredClone(figure));

const coldMethod = (method: Method): Method => ({
  ...method,
  figure: cold(method.figure),
  ...(method.relaid ? { relaid: method.relaid.map((l) => ({ ...l, figure: cold(l.figure) })) } : {}),
});

/** The same knot, of whose figures nothing is remembered yet. */
export const cooled = (knot: KnotDocument): KnotDocument => ({
  ...knot,
  method: coldMethod(knot.method),
  ...(knot.others ? { others: knot.others.map((o) => ({ ...o, method: coldMethod(o.method) })) } : {}),
});
