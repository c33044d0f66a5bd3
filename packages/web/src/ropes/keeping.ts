/**
 * Keeping a thing of a list: added, changed or removed, with what went wrong in words. Where somebody else has changed it meanwhile, theirs is
 * shown and may be taken.
 */
import { HttpErrorResponse } from '@angular/common/http';
import { signal, type Signal } from '@angular/core';
import { ROPE_ROUTES, type Kept, type KeptKind, type KeptValue } from '@foxtrail/contract/ropes';
import { tap } from 'rxjs';
import { Attempt } from '../data/attempt';
import type { KeptList } from '../data/ropes';

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
