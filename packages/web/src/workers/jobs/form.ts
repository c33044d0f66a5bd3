/**
 * Setting a knot, with the ropes on their way.
 */
import { accept, readKnot, setForm, setWatched, type TightenProgress } from '@foxtrail/core';
import { flawsOf, lift } from '@foxtrail/core/form';
import { onItsWay } from '@foxtrail/core/reel';
import type { Job } from './protocol';

/** Time between two pictures of the ropes on their way, in milliseconds. */
const PICTURES = 120;

export const set: Job<'set'> = async ({ document, wishes }, { tell, drive }) => {
  const read = readKnot(document);
  if (!read.ok) return read;
  const { figure } = read.value.method;
  const lifted = lift(figure);
  if (!lifted.ok) return lifted;
  const { solids } = lifted.value;
  let told = 0;
  const seen = (progress: TightenProgress): void => {
    if (performance.now() - told < PICTURES) return;
    told = performance.now();
    tell({ chains: progress.chains(), solids });
  };
  return drive(setForm(figure, wishes), (p) => p.done, { seen });
};

/** What is not dressed on a form. */
export const flaws: Job<'flaws'> = ({ document, form }) => {
  const read = readKnot(document);
  return Promise.resolve(read.ok ? accept(flawsOf(read.value.method.figure, form)) : read);
};

/** Setting a knot, to be shown in time. */
export const tighten: Job<'tighten'> = async ({ document, wishes }, { drive }) => {
  const read = readKnot(document);
  if (!read.ok) return read;
  const { figure } = read.value.method;
  const watched = await drive(setWatched(figure, wishes), (p) => p.done);
  return watched.ok ? accept(onItsWay(figure, watched.value)) : watched;
};
