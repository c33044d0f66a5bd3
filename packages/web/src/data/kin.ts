/**
 * Kin: families, and how knots come from each other; those of the shelf, and those of the pattern book where the shelf has none.
 */
import { HttpClient } from '@angular/common/http';
import { computed, inject, Injectable, signal } from '@angular/core';
import {
  kinDocumentsSchema,
  kinRelationSchema,
  kinSchema,
  type ChangeFamily,
  type Kin,
  type KinRelation,
  type StateKin,
} from '@foxtrail/contract';
import { foldedLinks, neighboursOf, type FigureFile, type KnotClass, type Neighbour } from '@foxtrail/core';
import { patterns } from '@foxtrail/pattern-book';
import { firstValueFrom, map, tap, type Observable } from 'rxjs';

/** A knot on the map. */
export interface KinNode {
  /** `knot:` and its id, or `pattern:` and its id. */
  readonly ref: string;
  readonly id: string;
  readonly name: string;
  readonly class: KnotClass;
  readonly family: string | null;
  readonly ofBook: boolean;
  readonly wrongWay: boolean;
}

/** A knot as a worker is given it; one of the pattern book it knows itself. */
export interface KinEntryFile {
  readonly ref: string;
  readonly name: string;
  readonly document?: FigureFile;
}

@Injectable({ providedIn: 'root' })
export class KinService {
  private readonly http = inject(HttpClient);
  private readonly state = signal<Kin | undefined>(undefined);
  readonly kin = this.state.asReadonly();
  readonly families = computed(() => this.state()?.families ?? []);

  /** The first knot of the shelf that is drawn as a pattern stands in its place. */
  private readonly standIns = computed(() => {
    const stand = new Map<string, string>();
    for (const k of this.state()?.knots ?? [])
      if (k.pattern !== null && !stand.has(`pattern:${k.pattern}`)) stand.set(`pattern:${k.pattern}`, `knot:${k.id}`);
    return stand;
  });

  readonly nodes = computed((): readonly KinNode[] => {
    const kin = this.state();
    if (!kin) return [];
    const familyOf = new Map(kin.families.map((f) => [f.name.toLowerCase(), f.id]));
    const own = kin.knots.map((k): KinNode => ({ ...k, ref: `knot:${k.id}`, ofBook: false }));
    const book = patterns().flatMap(({ id, knot }): KinNode[] =>
      this.standIns().has(`pattern:${id}`)
        ? []
        : [
            {
              ref: `pattern:${id}`,
              id,
              name: knot.name,
              class: knot.entry.class,
              family: familyOf.get(knot.entry.family.toLowerCase()) ?? null,
              ofBook: true,
              wrongWay: knot.entry.wrongWayOf !== undefined,
            },
          ],
    );
    return [...own, ...book];
  });
  private readonly byRef = computed(() => new Map(this.nodes().map((n) => [n.ref, n])));
  readonly links = computed(() => foldedLinks(this.state()?.relations ?? [], this.standIns()));

  node = (ref: string): KinNode | undefined => this.byRef().get(ref);
  nameOf = (ref: string): string => this.node(ref)?.name ?? ref.replace(/^\w+:/, '');
  familyName = (id: string | null): string => this.families().find((f) => f.id === id)?.name ?? 'no family';
  neighbours = (ref: string): readonly Neighbour<KinRelation>[] =>
    neighboursOf(this.links(), ref).filter((n) => this.byRef().has(n.ref));

  load(): Observable<Kin> {
    return this.taken(this.http.get('/api/kin'));
  }

  say(relation: StateKin): Observable<KinRelation> {
    return this.http.post('/api/kin/relations', relation).pipe(
      map((data) => kinRelationSchema.parse(data)),
      tap((r) => this.put(r)),
    );
  }

  judge(id: string, why: string | null): Observable<KinRelation> {
    return this.http.put(`/api/kin/relations/${id}`, { why }).pipe(
      map((data) => kinRelationSchema.parse(data)),
      tap((r) => this.put(r)),
    );
  }

  takeBack(id: string): Observable<unknown> {
    return this.http
      .delete(`/api/kin/relations/${id}`)
      .pipe(tap(() => this.state.update((k) => k && { ...k, relations: k.relations.filter((r) => r.id !== id) })));
  }

  /** Every knot of the shelf as a figure file, by its reference; left off between two pages when it is not wanted any more. */
  async documents(wanted: () => boolean): Promise<ReadonlyMap<string, FigureFile>> {
    const documents = new Map<string, FigureFile>();
    let after: string | undefined;
    do {
      const params: Record<string, string> = after === undefined ? {} : { after };
      const page = kinDocumentsSchema.parse(await firstValueFrom(this.http.get('/api/kin/documents', { params })));
      for (const k of page.knots) documents.set(`knot:${k.id}`, k.document);
      after = page.next ?? undefined;
    } while (after !== undefined && wanted());
    return documents;
  }

  /** Knots to be compared with each other: those of the shelf with their drawings, those of the book by name. */
  async entries(wanted: () => boolean): Promise<readonly KinEntryFile[]> {
    const documents = await this.documents(wanted);
    return this.nodes().flatMap(({ ref, name, ofBook }) => {
      const document = documents.get(ref);
      return document ? [{ ref, name, document }] : ofBook ? [{ ref, name }] : [];
    });
  }

  addFamily(name: string, parent: string | null): Observable<Kin> {
    return this.taken(this.http.post('/api/kin/families', { name, parent }));
  }

  changeFamily(id: string, change: ChangeFamily): Observable<Kin> {
    return this.taken(this.http.put(`/api/kin/families/${id}`, change));
  }

  dissolveFamily(id: string): Observable<Kin> {
    return this.taken(this.http.delete(`/api/kin/families/${id}`));
  }

  putKnot(id: string, family: string | null): Observable<Kin> {
    return this.taken(this.http.put(`/api/knots/${id}/family`, { family }));
  }

  private taken(answer: Observable<unknown>): Observable<Kin> {
    return answer.pipe(
      map((data) => kinSchema.parse(data)),
      tap((k) => this.state.set(k)),
    );
  }

  private put(relation: KinRelation): void {
    this.state.update((k) => {
      if (!k) return k;
      const there = k.relations.some((r) => r.id === relation.id);
      return {
        ...k,
        relations: there ? k.relations.map((r) => (r.id === relation.id ? relation : r)) : [...k.relations, relation],
      };
    });
  }
}
