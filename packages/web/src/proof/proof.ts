/**
 * Proof: front, back and left-handed side by side, every crossing with its sign, and the findings.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatTableModule } from '@angular/material/table';
import {
  crossingsOf,
  curveOf,
  drawStep,
  hostOf,
  lengthTo,
  methodInView,
  pointAt,
  requiredTail,
  ropeOf,
  sayLength,
  stepsOf,
  tailsOf,
  VIEWS,
  WORKSHOP_WORDS,
  type Crossing,
  type Finding,
  type TrailPosition,
} from '@foxtrail/core';
import { BenchStore } from '../knot/bench-store';
import { FigureView } from '../ui/figure';
import { FindingsList } from '../ui/findings-list';

@Component({
  selector: 'ft-proof',
  imports: [FigureView, FindingsList, MatTableModule, MatButtonModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './proof.html',
  styleUrl: './proof.scss',
})
export class ProofPage {
  protected readonly store = inject(BenchStore);
  protected readonly columns = ['number', 'over', 'under', 'sign', 'swap'];
  /** The place that a finding points at, when it is not at a crossing. */
  private readonly place = signal<TrailPosition | undefined>(undefined);
  /** Crossings that a finding points at. */
  protected readonly marked = signal<ReadonlySet<number>>(new Set());
  private readonly method = computed(
    () => this.store.method() ?? { figure: { ropes: [], hosts: [] }, leaders: [], halts: [] },
  );
  protected readonly figure = computed(() => this.method().figure);

  protected readonly views = computed(() =>
    VIEWS.map(({ view, name }) => {
      const drawing = drawStep(this.method(), this.method().halts.length, { view, labels: true });
      const { figure } = methodInView(this.method(), view);
      const crossings = crossingsOf(figure).filter((c) => this.marked().has(c.number));
      const place = this.place();
      const rope = place && ropeOf(figure, place.strand);
      const marks = [...crossings.map((c) => c.point), ...(rope ? [pointAt(curveOf(rope), place.at)] : [])];
      return { view, name, drawing, marks, note: NOTES[view] };
    }),
  );
  protected readonly crossings = computed(() =>
    crossingsOf(this.figure()).map((c) => ({
      number: c.number,
      over: this.placeOf(c.over),
      under: this.placeOf(c.under),
      sign: c.sign,
      crossing: c,
    })),
  );
  protected readonly findings = computed(() => this.store.analysis()?.findings ?? []);
  protected readonly closure = computed(() => this.store.analysis()?.closure);
  protected readonly tails = computed(() => {
    const { tail, cordMm } = this.store.rules();
    const wanted = requiredTail(tail, cordMm);
    return tailsOf(this.figure()).map((t) => ({
      ...t,
      name: this.ropeName(t.rope),
      said: sayLength(t.length, cordMm),
      wanted: sayLength(wanted, cordMm),
      holds: !t.inside && t.length >= wanted - 0.05,
    }));
  });
  protected readonly windings = computed(() =>
    (this.store.analysis()?.windings ?? []).map((w) => {
      const full = Math.floor(Math.abs(w.turns));
      return full === 0
        ? `${this.ropeName(w.rope)}: its windings about the spar cancel or do not close a turn.`
        : `${this.ropeName(w.rope)}: goes ${full === 1 ? 'once' : full === 2 ? 'twice' : `${full} times`} round the spar, the same way.`;
    }),
  );

  protected ropeName(id: string): string {
    const { ropes } = this.figure();
    return ropes.length < 2
      ? 'The rope'
      : `The ${WORKSHOP_WORDS.ropes[ropes.findIndex((r) => r.id === id)] ?? `rope ${id}`}`;
  }

  /** Where a passage lies, in words: rope, and how far along. */
  private placeOf(p: TrailPosition): string {
    const host = hostOf(this.figure(), p.strand);
    if (host) return WORKSHOP_WORDS.hosts[host.kind] ?? host.kind;
    const rope = ropeOf(this.figure(), p.strand);
    const along = rope ? lengthTo(curveOf(rope), p.at).toFixed(1) : '';
    const step = stepsOf(this.method()).find((s) => s.rope === p.strand && p.at > s.from && p.at <= s.to);
    const name =
      this.figure().ropes.length < 2
        ? ''
        : `${(WORKSHOP_WORDS.ropes[this.figure().ropes.findIndex((r) => r.id === p.strand)] ?? p.strand).replace(' rope', '')}, `;
    return `${name}${along} d${step ? `, step ${step.index + 1}` : ''}`;
  }

  /** A whole number with its sign. */
  protected signed(n: number): string {
    return n < 0 ? `−${-n}` : n > 0 ? `+${n}` : '0';
  }

  protected swap(crossing: Crossing): void {
    this.store.edit({ kind: 'figure', edit: { kind: 'swap', where: crossing.over } });
  }

  /** Rings what a finding speaks of: its crossings when it names them, else its place on the trail. */
  protected point(f: Finding): void {
    this.marked.set(new Set(f.crossings ?? []));
    this.place.set(f.crossings ? undefined : f.place);
  }

  protected fix(f: Finding): void {
    if (f.fix) this.store.edit(f.fix.edit);
  }
}

const NOTES = {
  front: 'As it is drawn',
  back: 'The same knot seen from behind',
  left: 'Its mirror image',
} as const;
