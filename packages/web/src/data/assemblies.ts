/**
 * Assemblies: what is known of the knots that they show, fetched once each, and what inspections came to.
 */
import { computed, inject, Injectable, signal } from '@angular/core';
import { tailRuleFor, WORKSHOP_PRACTICE } from '@foxtrail/core';
import { ASSEMBLY_ROUTES, type InspectionRecord } from '@foxtrail/contract/assemblies';
import {
  ASSEMBLY_LIMITS,
  asPlan,
  type Assembly,
  type AssemblyHouse,
  type FactsOf,
  type Inspection,
  type KnotFacts,
} from '@foxtrail/core/assembly';
import { planned, type Planned } from '@foxtrail/core/ropes';
import { eatsOfPattern, patternName } from '@foxtrail/pattern-book/assemblies';
import { map, tap, type Observable } from 'rxjs';
import { Api } from './api';
import { RopesService } from './ropes';
import { SessionService } from './session';

@Injectable({ providedIn: 'root' })
export class AssembliesService {
  private readonly api = inject(Api);
  private readonly ropes = inject(RopesService);
  private readonly sessions = inject(SessionService);
  private readonly known = signal<ReadonlyMap<string, KnotFacts>>(new Map());
  /** What is known of a knot; nothing while it has not been fetched. */
  readonly facts = computed((): FactsOf => {
    const known = this.known();
    return (ref) => known.get(ref);
  });

  /** Fetches what is not known yet of some knots; emits when all is known. */
  ask(refs: readonly string[]): Observable<unknown> | undefined {
    const wanted = [...new Set(refs)].filter((r) => !this.known().has(r)).slice(0, ASSEMBLY_LIMITS.knots);
    if (wanted.length === 0) return undefined;
    return this.api
      .call(ASSEMBLY_ROUTES.facts, { body: { refs: wanted } })
      .pipe(tap(({ facts }) => this.known.update((m) => new Map([...m, ...facts.map((f) => [f.ref, f] as const)]))));
  }

  /** A knot may have been drawn otherwise meanwhile: what is known is asked for anew. */
  forget(): void {
    this.known.set(new Map());
  }

  planned(a: Assembly): Planned {
    return planned(asPlan(a), this.ropes.forPlanner(), this.ropes.tiesOf());
  }

  /** What an assembly is held against in this house. */
  houseOf(a: Assembly, sayMm: (mm: number) => string, planned = this.planned(a)): AssemblyHouse {
    const practice = this.sessions.session()?.house.practice ?? WORKSHOP_PRACTICE;
    return {
      facts: this.facts(),
      tail: tailRuleFor(practice, { useGrade: a.useGrade }),
      patternName,
      eatsOf: eatsOfPattern,
      sayMm,
      planned,
    };
  }

  inspections(assembly: string): Observable<readonly InspectionRecord[]> {
    return this.api.call(ASSEMBLY_ROUTES.inspections, { query: { assembly } }).pipe(map((r) => r.inspections));
  }

  record(assembly: string, body: Inspection): Observable<InspectionRecord> {
    return this.api.call(ASSEMBLY_ROUTES.inspect, { parameters: { kept: assembly }, body });
  }
}

/** Both faces of a knot as it lies in the hand: of one that is a pattern by computation as the book has it. */
export function facesOf(ref: string, facts: KnotFacts | undefined): readonly { side: string; href: string }[] {
  const own = facts?.is.find((m) => !m.mirrored)?.id;
  const pattern = own ?? (ref.startsWith('pattern:') ? ref.slice('pattern:'.length) : undefined);
  const href = pictureOf(ref);
  if (pattern === undefined) return href === undefined ? [] : [{ side: 'Front', href }];
  return (['front', 'back'] as const).map((side) => ({
    side: side === 'front' ? 'Front' : 'Back',
    href: `/api/public/patterns/${pattern}/form/${side}.svg`,
  }));
}

/** The picture of a knot: of the shelf its card, of the book how it lies in the hand. */
export function pictureOf(ref: string): string | undefined {
  const [kind, id] = ref.split(':');
  if (kind === 'knot') return `/api/knots/${id}/thumbnail.svg`;
  return kind === 'pattern' ? `/api/public/patterns/${id}/form/front.svg` : undefined;
}
