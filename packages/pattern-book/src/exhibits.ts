/**
 * Wrong ways that are shown to learners, held against what they become: a page that calls something a false bowline shows one.
 */
import {
  crossingAt,
  finishedLayout,
  layoutsOf,
  mistakeOf,
  sayOutcome,
  type Exhibit,
  type Figure,
  type Finding,
  type KnotDocument,
  type Method,
  type MistakeGroup,
} from '@foxtrail/core';
import { patternKeys } from './known.js';

/** What a figure becomes in the way that an exhibit shows; none where its crossings are gone or too many to say. */
export function becomesOf(figure: Figure, { crossings }: Exhibit): MistakeGroup | undefined {
  const numbers = crossings.flatMap((c) => crossingAt(figure, c)?.number ?? []);
  if (numbers.length < crossings.length) return undefined;
  const found = mistakeOf(figure, numbers, patternKeys());
  return found.ok ? found.value : undefined;
}

/** Exhibits that state something else than what they show. */
export function exhibitFindings(method: Method): Finding[] {
  const { figure, exhibits = [] } = finishedLayout(method);
  const layout = layoutsOf(method).length - 1;
  return exhibits.flatMap((exhibit): Finding[] => {
    const found = becomesOf(figure, exhibit);
    const now = found && sayOutcome(found);
    if (!found || now === exhibit.becomes) return [];
    const without = exhibits.filter((e) => e !== exhibit);
    const harmless = found.outcome === 'same';
    return [
      {
        code: 'exhibit-differs',
        severity: 'error',
        title: `The wrong way shown as “${exhibit.becomes}” is something else now`,
        why: harmless
          ? 'With that crossing laid the other way it is still the same knot.'
          : `With that crossing laid the other way, this is what comes of it: ${now ?? ''}.`,
        remedy: harmless ? 'Withdraw it: it is no mistake.' : 'Show it as what it is, or withdraw it.',
        crossings: found.crossings,
        layout,
        fix: {
          label: harmless ? 'Withdraw it' : `Show it as “${now ?? ''}”`,
          layout,
          edit: {
            kind: 'show',
            shown: {
              exhibits: harmless
                ? without
                : exhibits.map((e) => (e === exhibit ? { crossings: e.crossings, becomes: now ?? '' } : e)),
            },
          },
        },
      },
    ];
  });
}

/** The exhibits of a layout as what they become; those that became harmless, or whose crossing is gone, are left out. */
function retoldExhibits(figure: Figure, exhibits: readonly Exhibit[]): readonly Exhibit[] {
  return exhibits.flatMap((e): Exhibit[] => {
    const found = becomesOf(figure, e);
    return found && found.outcome !== 'same' ? [{ ...e, becomes: sayOutcome(found) }] : [];
  });
}

/** A knot whose first method shows every wrong way as what it becomes: for one that was made from another. */
export function withExhibitsRetold(knot: KnotDocument): KnotDocument {
  const last = finishedLayout(knot.method);
  if (!last.exhibits) return knot;
  const exhibits = retoldExhibits(last.figure, last.exhibits);
  const relaid = knot.method.relaid?.map((l) => (l === last ? { ...l, exhibits } : l));
  return { ...knot, method: relaid ? { ...knot.method, relaid } : { ...knot.method, exhibits } };
}
