/** What is known of the knot on the bench: what it is, and everything found against it; worked out anew when the hand rests. */
import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { Knot } from '@foxtrail/contract';
import type { Finding } from '@foxtrail/core';
import { debounceTime, Subject } from 'rxjs';
import { AnalysisService, type Analysis } from '../data/analysis';
import { IdentityService } from '../data/identity';
import { Steady } from '../ui/steady';
import { BenchStore } from './bench-store';

/** In milliseconds. */
const ANALYSIS_PAUSE = 120;
/** The comparison with known knots waits until the hand rests. */
const IDENTITY_PAUSE = 350;

@Injectable()
export class Insight {
  private readonly store = inject(BenchStore);
  private readonly analyses = inject(AnalysisService);
  private readonly identities = inject(IdentityService);
  private readonly steady = inject(Steady);
  private readonly analysisNow = signal<Analysis | undefined>(undefined);
  private readonly due = new Subject<void>();

  readonly analysis = this.steady.hold(this.analysisNow);
  /** What the knot is, as far as it is known. */
  readonly identity = this.steady.hold(this.identities.report);
  readonly progress = this.steady.hold(this.identities.progress);
  /** What is stated of it as kin and refuted: as it was when the knot was opened. */
  private readonly refutedKin = signal<readonly Finding[]>([]);
  /** Everything found against the knot: not being what it claims comes first. */
  readonly findings = computed(() => {
    const { finding: stated, more, grade, practice, exhibits, layouts } = this.identity() ?? {};
    return [
      ...(stated ? [stated] : []),
      ...(more ?? []),
      ...(grade ? [grade] : []),
      ...(practice ?? []),
      ...this.refutedKin(),
      ...(layouts?.findings ?? []),
      ...(exhibits ?? []),
      ...(this.analysis()?.findings ?? []),
    ];
  });

  constructor() {
    this.due.pipe(debounceTime(ANALYSIS_PAUSE), takeUntilDestroyed()).subscribe(() => this.analyse());
    this.due.pipe(debounceTime(IDENTITY_PAUSE), takeUntilDestroyed()).subscribe(() => this.identify());
    this.analyses.results.pipe(takeUntilDestroyed()).subscribe((a) => this.analysisNow.set(a));
    effect(() => {
      this.store.knot();
      this.store.inHand();
      this.store.vocabulary();
      untracked(() => this.due.next());
    });
  }

  private analyse(): void {
    const document = this.store.document();
    if (document) this.analyses.request(document, this.store.inHand(), this.store.practice(), this.store.vocabulary());
  }

  /** Compares the knot with the known ones; the latest request wins. */
  identify(): void {
    const document = this.store.document();
    if (document) this.identities.request(document, this.store.inHand(), this.store.practice());
  }

  /** Stops the comparison; what is known so far stays. */
  cancel(): void {
    this.identities.cancel();
  }

  takeRefutedKin(refuted: Knot['refutedKin']): void {
    this.refutedKin.set(
      refuted.map(({ says, compared }) => ({
        code: 'kin-refuted',
        severity: 'warning',
        title: `A stated kinship is refuted: ${says.replace(/\.$/, '')}`,
        why: compared,
        remedy: 'Take the relation back on Kin, or correct the drawing.',
      })),
    );
  }
}
