import type { Trouble } from '../data/problem';
import { cardOf, OVERHAND } from '../testing/knots';
import { maySend, saveAfter, type SaveEvent, type SaveState } from './save-state';

const trouble = (status: number, body: unknown = null): Trouble => ({
  status,
  code: 'c',
  place: 'p',
  reason: 'r',
  remedy: 'm',
  body,
});
const theirs = { card: cardOf({ revision: 3 }), document: OVERHAND };
const conflicting = { error: { code: 'conflict', place: 'p', reason: 'r', remedy: 'm' }, current: theirs };

const STATES: readonly SaveState[] = [
  { kind: 'saved', at: '2026-05-01T10:00:00.000Z' },
  { kind: 'unsaved' },
  { kind: 'saving' },
  { kind: 'reading-only' },
  { kind: 'kept-here', trouble: trouble(0) },
  { kind: 'signed-out' },
  { kind: 'refused', trouble: trouble(422) },
  { kind: 'archived', trouble: trouble(410) },
  { kind: 'conflict', trouble: trouble(412), theirs },
];
const after = (state: SaveState, event: SaveEvent): string => saveAfter(state, event).kind;

describe('the state of saving', () => {
  it('is told by the answer when a save fails, whatever it was before', () => {
    const answers: [number, SaveState['kind']][] = [
      [401, 'signed-out'],
      [410, 'archived'],
      [412, 'conflict'],
      [0, 'kept-here'],
      [500, 'kept-here'],
      [429, 'kept-here'],
      [503, 'kept-here'],
      [507, 'kept-here'],
      [400, 'refused'],
      [403, 'refused'],
      [413, 'refused'],
    ];
    for (const state of STATES)
      for (const [status, kind] of answers)
        expect(after(state, { kind: 'failed', trouble: trouble(status, conflicting) }))
          .withContext(`${state.kind} ${status}`)
          .toBe(kind);
  });
  it('keeps theirs with a conflict, so that both can be shown', () => {
    const state = saveAfter({ kind: 'saving' }, { kind: 'failed', trouble: trouble(412, conflicting) });
    expect(state.kind === 'conflict' && state.theirs.card.revision).toBe(3);
  });
  it('lets no edit hide what must be settled first, and tries again what was refused', () => {
    for (const state of STATES) {
      const stays = ['conflict', 'archived', 'signed-out', 'kept-here'].includes(state.kind);
      expect(after(state, { kind: 'edited' })).toBe(stays ? state.kind : 'unsaved');
    }
  });
  it('sends nothing where another version waits, where the knot is gone, or where nothing may be changed', () => {
    expect(STATES.filter((s) => !maySend(s)).map((s) => s.kind)).toEqual(['reading-only', 'archived', 'conflict']);
  });
  it('is saved only when nothing was changed meanwhile', () => {
    const at = '2026-05-01T10:00:00.000Z';
    expect(saveAfter({ kind: 'saving' }, { kind: 'answered', at, whole: true })).toEqual({ kind: 'saved', at });
    expect(after({ kind: 'saving' }, { kind: 'answered', at, whole: false })).toBe('unsaved');
    expect(after({ kind: 'unsaved' }, { kind: 'sent' })).toBe('saving');
    expect(after({ kind: 'kept-here', trouble: trouble(0) }, { kind: 'sent' })).toBe('kept-here');
    for (const state of STATES) expect(after(state, { kind: 'settled' })).toBe('unsaved');
  });
});
