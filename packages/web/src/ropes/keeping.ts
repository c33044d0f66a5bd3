/**
 * Keeping a thing of a list: added, changed or removed, with what went wrong in words. Where somebody else has changed it meanwhile, theirs is
 * shown and may be taken.
 */
import { HttpErrorResponse } from '@angular/common/http';
import { signal, type Signal } from '@angular/core';
import { ROPE_ROUTES, type Kept, type KeptKind, type KeptValue } from '@foxtrail/contract/ropes';
import { refusalOf, sayRefusal } from '@foxtrail/core';
import { tap } from 'rxjs';
import type * as z from 'zod';
import { Attempt } from '../data/attempt';
import type { KeptList } from '../data/ropes';

/** A field that may hold what cannot be read. */
interface Field {
  readonly label: () => string;
  readonly fits: () => boolean;
}

/** What the frame of a dialog needs of it, whatever is kept. */
export type AnyKeeping = Pick<Keeping<KeptKind>, 'trouble' | 'busy' | 'isThere' | 'remove'> & {
  readonly theirs: () => unknown;
};

export class Keeping<K extends KeptKind> {
  private readonly attempt = new Attempt();
  readonly trouble = this.attempt.trouble;
  readonly busy: Signal<boolean> = this.attempt.busy;
  /** The thing as somebody else has changed it. */
  readonly theirs = signal<Kept<KeptValue<K>> | undefined>(undefined);

  constructor(
    private readonly list: KeptList<K>,
    private readonly kind: K,
    /** The thing that is changed; undefined: a new one. */
    private readonly kept?: Kept<KeptValue<K>>,
  ) {}

  get isThere(): boolean {
    return this.kept !== undefined;
  }

  /** Keeps what was written, where all of it can be read, and else says what cannot; resolves to whether it is kept. */
  async keepRead(read: z.ZodSafeParseResult<KeptValue<K>>, fields: readonly Field[]): Promise<boolean> {
    const unread = fields.find((f) => !f.fits());
    if (unread) this.trouble.set(`${unread.label()} cannot be read. See below it.`);
    else if (!read.success) this.trouble.set(sayRefusal(refusalOf(read.error)));
    else return this.keep(read.data);
    return false;
  }

  /** Keeps it; resolves to whether it is kept. */
  keep(is: KeptValue<K>): Promise<boolean> {
    const from = this.theirs() ?? this.kept;
    if (!from) return this.attempt.run(this.list.add(is));
    return this.attempt.run(this.list.change(from, is).pipe(tap({ error: (error: unknown) => this.met(error) })));
  }

  remove(): Promise<boolean> {
    return this.kept ? this.attempt.run(this.list.remove(this.kept.id)) : Promise.resolve(false);
  }

  private met(error: unknown): void {
    if (!(error instanceof HttpErrorResponse) || error.status !== 412) return;
    const { now } = error.error as { now?: unknown };
    const read = ROPE_ROUTES[this.kind].change.answer.safeParse(now);
    if (read.success) this.theirs.set(read.data as Kept<KeptValue<K>>);
  }
}
