/**
 * Revisions by sittings: every pause in the work saves one, and of an hour at the bench two are looked for, how it began and how it ended.
 */
import type { RevisionInfo } from '@foxtrail/contract';

/** A pause longer than this begins another sitting, in milliseconds. */
const PAUSE = 20 * 60_000;

/** What the list of revisions shows: a revision, or so many of a sitting that are folded away. */
export type SittingRow =
  | { readonly kind: 'revision'; readonly revision: RevisionInfo }
  | { readonly kind: 'folded'; readonly from: number; readonly count: number };

/** The sittings of a list that has the latest revision first, each as a part of the list. */
function sittingsOf(revisions: readonly RevisionInfo[]): RevisionInfo[][] {
  const sittings: RevisionInfo[][] = [];
  for (const r of revisions) {
    const own = sittings.at(-1);
    const later = own?.at(-1);
    const goesOn = later?.savedBy === r.savedBy && Date.parse(later.savedAt) - Date.parse(r.savedAt) <= PAUSE;
    if (own && goesOn) own.push(r);
    else sittings.push([r]);
  }
  return sittings;
}

/**
 * The list with what lies within a sitting folded away, but for what has a name and what is `kept`; a sitting whose first revision is in
 * `open` is shown whole.
 */
export function foldedRevisions(
  revisions: readonly RevisionInfo[],
  kept: number | undefined,
  open: ReadonlySet<number>,
): readonly SittingRow[] {
  return sittingsOf(revisions).flatMap((sitting): SittingRow[] => {
    const from = sitting.at(-1)?.number ?? 0;
    const inside = (r: RevisionInfo, i: number): boolean =>
      i > 0 && i < sitting.length - 1 && r.name === null && r.number !== kept && !open.has(from);
    return sitting.reduce<SittingRow[]>((rows, revision, i) => {
      if (!inside(revision, i)) return [...rows, { kind: 'revision', revision }];
      const before = rows.at(-1);
      return before?.kind === 'folded'
        ? [...rows.slice(0, -1), { ...before, count: before.count + 1 }]
        : [...rows, { kind: 'folded', from, count: 1 }];
    }, []);
  });
}
