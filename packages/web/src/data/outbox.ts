/**
 * The outbox: what is on the bench and not yet on the server, kept in the browser so that nothing is lost. Every tab keeps its own draft
 * of a knot, and no tab touches the draft of another that is open.
 */
import { Injectable } from '@angular/core';
import type { FigureFile } from '@foxtrail/core';
import { DRAFTS, kept } from './kept';

/** A save that was sent and has no answer yet: sent again with its id, it is answered as it was the first time. */
export interface Sent {
  readonly id: string;
  readonly base: number;
  readonly document: FigureFile;
}

export interface Unsaved {
  readonly knot: string;
  /** Whose work it is; empty where that is not known. */
  readonly account: string;
  /** The revision it was made from. */
  readonly base: number;
  readonly document: FigureFile;
  readonly at: number;
  readonly sent?: Sent | undefined;
}

/** A draft of an earlier visit, by the key it is kept by. */
export interface Draft extends Unsaved {
  readonly key: string;
}

/** An id made of random numbers (RFC 9562, version 4), also where the page has not come over a secure connection. */
export function randomId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = ((bytes[6] as number) & 0x0f) | 0x40;
  bytes[8] = ((bytes[8] as number) & 0x3f) | 0x80;
  const hex = [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
  return [hex.slice(0, 8), hex.slice(8, 12), hex.slice(12, 16), hex.slice(16, 20), hex.slice(20)].join('-');
}

const lockOf = (tab: string): string => `foxtrail-tab-${tab}`;
/** Locks tell which tabs are open; there are none where the page has not come over a secure connection. */
const locks = (): LockManager | undefined => (navigator as { locks?: LockManager }).locks;

@Injectable({ providedIn: 'root' })
export class Outbox {
  private readonly db = kept();
  private readonly tab = randomId();

  constructor() {
    // Held until the tab is closed, however that comes about.
    void locks()?.request(lockOf(this.tab), () => new Promise<never>(() => undefined));
  }

  private keyOf(knot: string): string {
    return `${knot} ${this.tab}`;
  }

  /** Keeps this tab's draft of a knot. Rejected when the browser's store refuses it. */
  async put(entry: Unsaved): Promise<void> {
    await (await this.db).put(DRAFTS, { ...entry, key: this.keyOf(entry.knot) } satisfies Draft);
  }

  /** This tab's draft of a knot. */
  async own(knot: string): Promise<Draft | undefined> {
    return (await (await this.db).get(DRAFTS, this.keyOf(knot))) as Draft | undefined;
  }

  /** Drafts of a knot that an account has left in this browser, and that no open tab works on; the newest first. */
  async left(knot: string, account: string): Promise<Draft[]> {
    const all = (await (await this.db).getAll(DRAFTS)) as Draft[];
    const held = new Set((await locks()?.query())?.held?.map((l) => l.name ?? '') ?? []);
    held.delete(lockOf(this.tab));
    const open = ({ key }: Draft): boolean => held.has(lockOf(key.split(' ')[1] ?? ''));
    return all
      .filter((d) => d.knot === knot && (d.account === account || d.account === '') && !open(d))
      .sort((a, b) => b.at - a.at);
  }

  /** Forgets a draft: this tab's own of a knot, or one by its key. */
  async remove(of: { readonly knot: string } | { readonly key: string }): Promise<void> {
    await (await this.db).delete(DRAFTS, 'key' in of ? of.key : this.keyOf(of.knot));
  }
}
