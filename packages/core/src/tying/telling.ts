/**
 * What steps show and say, carried along: through edits of the figure, and when steps are put in, taken out or exchanged.
 */
import {
  CALLOUT_LENGTH,
  CALLOUT_LIMIT,
  CLOSE_UPS,
  FILM_SPEEDS,
  LIT_LIMIT,
  LONGEST_HOLD,
  TEXT_LIMIT,
} from './limits.js';
import type { TrailSpan } from '../figure/figure.js';
import { mapPosition, type Mapping } from '../figure/mapping.js';
import { refuse, type Refusal } from '../figure/refusal.js';
import type { Callout, Halt, Telling } from './method.js';

const carrySpan = (mapping: Mapping, { strand, from, to }: TrailSpan): TrailSpan[] => {
  const [a, b] = [mapPosition(mapping, { strand, at: from }), mapPosition(mapping, { strand, at: to })];
  if (!a || !b || Math.abs(a.at - b.at) < 1e-6) return [];
  return [{ strand, from: Math.min(a.at, b.at), to: Math.max(a.at, b.at) }];
};

const carryCallout = (mapping: Mapping, callout: Callout): Callout[] => {
  const place = mapPosition(mapping, callout);
  return place ? [{ ...callout, at: place.at }] : [];
};

/** What a step shows after an edit of its figure; what pointed at a place that is gone is gone with it. */
export function carryTelling<T extends Telling>(telling: T, mapping: Mapping): T {
  if (!telling.lit && !telling.callouts) return telling;
  return {
    ...telling,
    ...(telling.lit ? { lit: telling.lit.flatMap((s) => carrySpan(mapping, s)) } : {}),
    ...(telling.callouts ? { callouts: telling.callouts.flatMap((c) => carryCallout(mapping, c)) } : {}),
  };
}

/** A step with some of what it shows changed; `undefined` sets a thing back to what it is without a word of the author's. */
export function told<T extends Telling>(step: T, change: Telling): T {
  return Object.fromEntries(Object.entries({ ...step, ...change }).filter(([, value]) => value !== undefined)) as T;
}

/** Why a step cannot show what is asked of it. */
export function tellingTrouble(place: string, { text, closeUp, lit, callouts, filmed }: Telling): Refusal | undefined {
  if ((text?.length ?? 0) > TEXT_LIMIT)
    return refuse(place, `A step text has ${TEXT_LIMIT} characters at most.`, 'Split the step or say it shorter.');
  if (closeUp !== undefined && !(closeUp >= CLOSE_UPS.least && closeUp <= CLOSE_UPS.most))
    return refuse(
      place,
      `A close-up is ${CLOSE_UPS.least} to ${CLOSE_UPS.most} times as near.`,
      'Choose one between, or show the whole figure.',
    );
  const { speed = 1, hold = 0 } = filmed ?? {};
  if (!(speed >= FILM_SPEEDS.least && speed <= FILM_SPEEDS.most))
    return refuse(
      place,
      `A step is filmed ${FILM_SPEEDS.least} to ${FILM_SPEEDS.most} times as quick as the rest.`,
      'Choose a speed between.',
    );
  if (!(hold >= 0 && hold <= LONGEST_HOLD))
    return refuse(place, `A step rests for ${LONGEST_HOLD} seconds at most.`, 'Hold it for less, or split the step.');
  if ((lit?.length ?? 0) > LIT_LIMIT)
    return refuse(place, `${LIT_LIMIT} stretches are lit at most.`, 'Put one out first; where all is lit nothing is.');
  if ((callouts?.length ?? 0) > CALLOUT_LIMIT)
    return refuse(place, `A step has ${CALLOUT_LIMIT} callouts at most.`, 'Take one away, or split the step.');
  const long = callouts?.find((c) => c.text.length > CALLOUT_LENGTH);
  return long && refuse(place, `A callout has ${CALLOUT_LENGTH} characters at most.`, 'Say it shorter.');
}

/** Steps whose numbers have changed: what they do again is found by its new number, or is no longer known. */
export function renumber(halts: readonly Halt[], now: (was: number) => number | undefined): Halt[] {
  return halts.map((h, i) => {
    if (!h.again) return h;
    const of = now(h.again.of);
    if (of !== undefined && of < i) return of === h.again.of ? h : { ...h, again: { ...h.again, of } };
    const { again: _gone, ...rest } = h;
    return rest;
  });
}
