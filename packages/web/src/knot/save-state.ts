/**
 * How the knot on the bench stands with the server: every state, and what each event makes of it.
 *
 * Nothing that is refused, met by another version or cut off from the server is overwritten by an edit: what must be settled stays
 * until it is settled, while the work goes on and is kept in the outbox.
 */
import { conflictSchema, type KnotCard } from '@foxtrail/contract';
import type { FigureFile } from '@foxtrail/core';
import type { Trouble } from '../data/problem';

export type SaveState =
  | { readonly kind: 'saved'; readonly at: string }
  | { readonly kind: 'unsaved' | 'saving' | 'reading-only' }
  /** The server does not answer, or cannot save at present; the work is kept here and tried again. */
  | { readonly kind: 'kept-here'; readonly trouble: Trouble }
  | { readonly kind: 'signed-out' }
  | { readonly kind: 'refused'; readonly trouble: Trouble }
  | { readonly kind: 'archived'; readonly trouble: Trouble }
  | {
      readonly kind: 'conflict';
      readonly trouble: Trouble;
      readonly theirs: { readonly card: KnotCard; readonly document: FigureFile };
    };

export type SaveEvent =
  | { readonly kind: 'opened'; readonly at: string; readonly mayWrite: boolean }
  | { readonly kind: 'edited' | 'sent' }
  /** What stood in the way is settled: a version is chosen, the author signed in, the knot is put back. */
  | { readonly kind: 'settled' }
  /** Saved; `whole` when nothing was changed meanwhile. */
  | { readonly kind: 'answered'; readonly at: string; readonly whole: boolean }
  | { readonly kind: 'failed'; readonly trouble: Trouble };

/** States that an edit does not change. */
const STANDING: ReadonlySet<SaveState['kind']> = new Set(['conflict', 'archived', 'signed-out', 'kept-here']);
/** States in which nothing is sent. */
const HELD: ReadonlySet<SaveState['kind']> = new Set(['conflict', 'archived', 'reading-only']);

export const maySend = ({ kind }: SaveState): boolean => !HELD.has(kind);

export function saveAfter(state: SaveState, event: SaveEvent): SaveState {
  switch (event.kind) {
    case 'opened':
      return event.mayWrite ? { kind: 'saved', at: event.at } : { kind: 'reading-only' };
    case 'edited':
      return STANDING.has(state.kind) ? state : { kind: 'unsaved' };
    case 'settled':
      return { kind: 'unsaved' };
    case 'sent':
      return state.kind === 'unsaved' ? { kind: 'saving' } : state;
    case 'answered':
      return event.whole ? { kind: 'saved', at: event.at } : { kind: 'unsaved' };
    case 'failed':
      return failed(event.trouble);
  }
}

function failed(trouble: Trouble): SaveState {
  // Whatever went wrong on the server may be right again at the next try, and so may what was too much at once.
  if (trouble.status === 0 || trouble.status === 429 || trouble.status >= 500) return { kind: 'kept-here', trouble };
  switch (trouble.status) {
    case 401:
      return { kind: 'signed-out' };
    case 410:
      return { kind: 'archived', trouble };
    case 412:
      return { kind: 'conflict', trouble, theirs: conflictSchema.parse(trouble.body).current };
    default:
      return { kind: 'refused', trouble };
  }
}
