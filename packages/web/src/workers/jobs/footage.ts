/** What the marks of a film say of the knot. */
import { accept, finishedFigure, finishedLayout, knotByMethod, readKnot, refuse, type Figure } from '@foxtrail/core';
import { verdictOnFilm } from '@foxtrail/pattern-book/footage';
import type { Job } from './protocol';

/** The figure that was judged last: what its crossings make of it is worked out once, however many marks are set. */
let last: { readonly text: string; readonly figure: Figure } | undefined;

export const footage: Job<'footage'> = ({ document, method, film }) => {
  const read = readKnot(document);
  if (!read.ok) return read;
  const knot = knotByMethod(read.value, method);
  const own = finishedLayout(knot.method).footage?.find((f) => f.film === film);
  if (!own) return refuse('film', 'This film is not shown any more.', 'Choose another one.');
  const figure = finishedFigure(knot.method);
  const text = JSON.stringify(figure);
  if (last?.text !== text) last = { text, figure };
  return accept(verdictOnFilm(last.figure, own));
};
