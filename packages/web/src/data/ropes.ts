/**
 * What the house keeps of ropes: each kind fetched once, changed here as it is changed there.
 */
import { computed, inject, Injectable, signal, type Signal } from '@angular/core';
import { ROPE_ROUTES, type Kept, type KeptKind, type KeptValue } from '@foxtrail/contract/ropes';
import { unfit, type PlannerRope, type TiesOf } from '@foxtrail/core/ropes';
import { of, tap, type Observable } from 'rxjs';
import { Api } from './api';

type Things<K extends KeptKind> = readonly Kept<KeptValue<K>>[];

/** Today, as dates are written in stock. */
export const today = (now = new Date()): string =>
  [now.getFullYear(), now.getMonth() + 1, now.getDate()].map((n) => String(n).padStart(2, '0')).join('-');

/** A list of one kind of thing. */
export class KeptList<K extends KeptKind> {
  private readonly state = signal<Things<K> | undefined>(undefined);
  /** Undefined until it has been fetched. */
  readonly all: Signal<Things<K> | undefined> = this.state.asReadonly();
  readonly list = computed((): Things<K> => this.state() ?? []);
  private readonly routes: (typeof ROPE_ROUTES)['ropes'];

  constructor(
    private readonly api: Api,
    kind: K,
  ) {
    // One kind stands for all: what a kind holds its own schema checks.
    this.routes = ROPE_ROUTES[kind] as unknown as (typeof ROPE_ROUTES)['ropes'];
  }

  find = (id: string | null): Kept<KeptValue<K>> | undefined => this.list().find((k) => k.id === id);

  load(): Observable<Things<K>> {
    return (this.api.call(this.routes.list) as unknown as Observable<Things<K>>).pipe(
      tap((all) => this.state.set(all)),
    );
  }

  /** It is fetched anew when it is asked for the next time: others may have changed it. */
  forget(): void {
    this.state.set(undefined);
  }

  add(...things: KeptValue<K>[]): Observable<Things<K>> {
    const made = this.api.call(this.routes.add, { body: { things: things as never } });
    return (made as unknown as Observable<Things<K>>).pipe(tap((more) => this.state.set([...this.list(), ...more])));
  }

  change({ id, revision }: Kept<KeptValue<K>>, is: KeptValue<K>): Observable<Kept<KeptValue<K>>> {
    const changed = this.api.call(this.routes.change, {
      parameters: { kept: id },
      body: { revision, is: is as never },
    });
    return (changed as unknown as Observable<Kept<KeptValue<K>>>).pipe(tap((now) => this.put(now)));
  }

  /** What somebody else has made of it is taken. */
  put(now: Kept<KeptValue<K>>): void {
    this.state.set(this.list().map((k) => (k.id === now.id ? now : k)));
  }

  remove(id: string): Observable<unknown> {
    return this.api
      .call(this.routes.remove, { parameters: { kept: id } })
      .pipe(tap(() => this.state.set(this.list().filter((k) => k.id !== id))));
  }
}

@Injectable({ providedIn: 'root' })
export class RopesService {
  private readonly api = inject(Api);
  readonly ropes = new KeptList(this.api, 'ropes');
  readonly things = new KeptList(this.api, 'things');
  readonly bodies = new KeptList(this.api, 'bodies');
  readonly ties = new KeptList(this.api, 'ties');
  readonly tests = new KeptList(this.api, 'tests');
  readonly plans = new KeptList(this.api, 'plans');
  readonly assemblies = new KeptList(this.api, 'assemblies');
  readonly courses = new KeptList(this.api, 'courses');

  /** The stock as the planner meets it. */
  readonly forPlanner = computed((): readonly PlannerRope[] =>
    this.ropes.list().map(({ id, is }) => ({ id, name: is.name, pieces: is.pieces, unfit: unfit(is, today()) })),
  );

  /** Measured ties of a rope of a knot; of the shelf and of the book they are one by their name. */
  readonly tiesOf = computed((): TiesOf => {
    const ties = this.ties.list();
    return ({ name, strand }) =>
      ties.filter((t) => t.is.knotName.toLowerCase() === name.toLowerCase() && t.is.strand === strand).map((t) => t.is);
  });

  /** A kind, fetched unless it is there. */
  ensure<K extends KeptKind>(list: KeptList<K>): Observable<Things<K>> {
    return list.all() === undefined ? list.load() : of(list.list());
  }
}
