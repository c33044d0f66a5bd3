import type { RevisionInfo } from '@foxtrail/contract';
import { foldedRevisions, type SittingRow } from './sittings';

/** Revisions saved at these minutes, the latest first. */
const at = (...minutes: readonly number[]): RevisionInfo[] =>
  minutes
    .map((m, i) => ({
      number: i + 1,
      name: null,
      savedBy: 'Wren',
      savedAt: new Date(Date.UTC(2026, 4, 1, 10, m)).toISOString(),
    }))
    .reverse();
const told = (rows: readonly SittingRow[]): string =>
  rows.map((r) => (r.kind === 'folded' ? `(${r.count})` : String(r.revision.number))).join(' ');
const fold = (list: readonly RevisionInfo[], kept?: number, open: readonly number[] = []): string =>
  told(foldedRevisions(list, kept, new Set(open)));

describe('revisions of a sitting', () => {
  it('are how it began and how it ended, with what lies between folded away', () => {
    expect(fold(at(0, 1, 2, 3, 4))).toBe('5 (3) 1');
    expect(fold(at(0, 1))).toBe('2 1');
    expect(fold(at(0))).toBe('1');
    expect(fold([])).toBe('');
  });
  it('end with a pause, and where somebody else goes on', () => {
    expect(fold(at(0, 1, 2, 40, 41, 42))).toBe('6 (1) 4 3 (1) 1');
    const two = at(0, 1, 2, 3, 4, 5).map((r) => (r.number > 3 ? { ...r, savedBy: 'Moss' } : r));
    expect(fold(two)).toBe('6 (1) 4 3 (1) 1');
  });
  it('never hide one that has a name or is looked at, and all are there when they are asked for', () => {
    const named = at(0, 1, 2, 3, 4).map((r) => (r.number === 3 ? { ...r, name: 'Before the slip' } : r));
    expect(fold(named)).toBe('5 (1) 3 (1) 1');
    expect(fold(named, 2)).toBe('5 (1) 3 2 1');
    expect(fold(named, undefined, [1])).toBe('5 4 3 2 1');
  });
  it('are each told once or counted, whatever the times', () => {
    const list = at(...Array.from({ length: 40 }, (_, i) => i + 25 * (i % 7 === 0 ? 1 : 0) * Math.floor(i / 7)));
    const rows = foldedRevisions(list, 9, new Set());
    const count = rows.reduce((n, r) => n + (r.kind === 'folded' ? r.count : 1), 0);
    expect(count).toBe(40);
    const shown = rows.flatMap((r) => (r.kind === 'revision' ? [r.revision.number] : []));
    expect(shown).toEqual([...shown].sort((a, b) => b - a));
  });
});
