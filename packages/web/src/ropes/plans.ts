/**
 * Plans: what ropes a lesson needs, how long each is cut, where on it every knot begins, and from which pieces of the stock they come. A plan
 * is kept as it is changed.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  signal,
  untracked,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { Router } from '@angular/router';
import type { Kept } from '@foxtrail/contract/ropes';
import { planRopeSchema, planSchema, planned, type Plan, type PlanRope, type StockCut } from '@foxtrail/core/ropes';
import { Attempt } from '../data/attempt';
import { FormingService } from '../data/forming';
import { PlacingService } from '../data/placing';
import { KinService } from '../data/kin';
import { RopesService } from '../data/ropes';
import { SessionService } from '../data/session';
import { Chart, type ChartColours, type ChartShown } from '../ui/chart';
import { Notices } from '../ui/notices';
import { Select } from '../ui/select';
import { Eats } from './eats';
import { freeName, KeptDraft } from './kept-draft';
import { KeptTrouble } from './kept-trouble';
import { MeasureField } from './measure-field';
import { PlanRopeCard } from './plan-rope';
import { lengthsSaid } from './lengths-said';

/** Height of a bar of the chart, and of what stands around them. */
const BAR = 40;
const AROUND = 60;

@Component({
  selector: 'ft-plans',
  imports: [MatButtonModule, MatIconModule, Chart, MeasureField, PlanRopeCard, Select, KeptTrouble],
  providers: [FormingService, PlacingService, Eats],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plans.html',
  styleUrl: './plans.scss',
})
export class PlansPage {
  /** The plan’s id, from the address. */
  readonly plan = input<string>();
  private readonly kept = inject(RopesService);
  private readonly kin = inject(KinService);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  protected readonly mayWrite = inject(SessionService).mayWrite;
  protected readonly attempt = new Attempt();
  protected readonly sayMm = lengthsSaid();
  /** Whose palms and arms are meant where a length is written in them; absent: those of adults. */
  protected readonly people = computed(() => this.kept.bodies.list().map((k) => ({ value: k.id, name: k.is.name })));
  protected readonly personId = signal('');
  protected readonly person = computed(() => this.kept.bodies.find(this.personId())?.is);

  protected readonly choices = computed(() => this.kept.plans.list().map((k) => ({ value: k.id, name: k.is.name })));
  protected readonly chosen = computed(() => this.kept.plans.find(this.plan() ?? null) ?? this.kept.plans.list()[0]);
  protected readonly written = new KeptDraft(this.kept.plans, 'plans', this.attempt, this.notices);
  protected readonly draft = this.written.draft;
  protected readonly unsaved = this.written.unsaved;

  protected readonly result = computed(() => {
    const draft = this.draft();
    if (!draft) return undefined;
    return planned(draft, this.kept.forPlanner(), this.kept.tiesOf());
  });

  protected readonly cuts = computed(() =>
    (this.result()?.cuts ?? [])
      .filter((c) => c.demands.length > 0)
      .map((cut) => ({ ...cut, chart: this.chartOf(cut), height: AROUND + BAR * cut.list.cut.length })),
  );

  constructor() {
    // Names of knots to choose from.
    if (!this.kin.kin()) void this.attempt.run(this.kin.load());
    effect(() => {
      const chosen = this.chosen();
      untracked(() => this.written.take(chosen));
    });
    inject(DestroyRef).onDestroy(() => void this.flush());
  }

  protected open(id: string): void {
    if (id !== '') void this.router.navigate(['/ropes/plans', id]);
  }

  protected async begin(): Promise<void> {
    const name = freeName('New plan', this.kept.plans.list());
    const plan = planSchema.parse({ name, ropes: [{ name: 'First rope', diameterMm: 10, firstMm: 1000 }] });
    await this.attempt.run(this.kept.plans.add(plan), ([made]) => made && this.open(made.id));
  }

  protected async remove(kept: Kept<Plan>): Promise<void> {
    this.written.drop(kept.id);
    const { is } = kept;
    if (!(await this.attempt.run(this.kept.plans.remove(kept.id)))) return;
    void this.router.navigate(['/ropes/plans']);
    this.notices.done(`“${is.name}” is removed.`, () => void this.attempt.run(this.kept.plans.add(is)));
  }

  protected change(more: Partial<Plan>): void {
    const draft = this.draft();
    if (draft) this.written.change({ ...draft, ...more });
  }
  protected changeRope(at: number, rope: PlanRope): void {
    this.change({ ropes: this.draft()!.ropes.map((r, i) => (i === at ? rope : r)) });
  }
  protected removeRope(at: number): void {
    const ropes = this.draft()!.ropes;
    this.change({ ropes: ropes.filter((_, i) => i !== at) });
    this.notices.done(`“${ropes[at]?.name ?? ''}” is removed.`, () => this.change({ ropes }));
  }
  protected addRope(): void {
    const ropes = this.draft()!.ropes;
    const rope = planRopeSchema.parse({
      name: `Rope ${ropes.length + 1}`,
      rope: ropes.at(-1)?.rope ?? null,
      diameterMm: ropes.at(-1)?.diameterMm ?? 10,
      firstMm: 1000,
    });
    this.change({ ropes: [...ropes, rope] });
  }

  /** Keeps what is written, at once. */
  protected flush(): Promise<void> {
    return this.written.flush();
  }

  protected print(): void {
    globalThis.print();
  }

  private chartOf({ list }: StockCut): (colours: ChartColours) => ChartShown {
    return (colours) => {
      const most = Math.max(1, ...list.cut.map((c) => c.lengths.length));
      const names = list.cut.map((c, i) => `${i + 1}: ${this.sayMm(c.piece.mm)}`);
      const bars = Array.from({ length: most }, (_, k) => ({
        type: 'bar',
        orientation: 'h',
        y: names,
        x: list.cut.map((c) => (c.lengths[k]?.mm ?? 0) / 1000),
        text: list.cut.map((c) => (c.lengths[k] ? (c.lengths[k].mm / 1000).toFixed(2) : '')),
        customdata: list.cut.map((c) => c.lengths[k]?.label ?? ''),
        textposition: 'inside',
        insidetextanchor: 'middle',
        marker: { color: k % 2 === 0 ? colours.good : colours.soft, line: { color: colours.card, width: 2 } },
        insidetextfont: { color: colours.card },
        hovertemplate: '%{customdata}: %{x:.2f} m<extra></extra>',
      }));
      const left = {
        type: 'bar',
        orientation: 'h',
        y: names,
        x: list.cut.map((c) => c.leftMm / 1000),
        text: list.cut.map((c) => (c.leftMm > 0 ? `left ${this.sayMm(c.leftMm)}` : '')),
        textposition: 'inside',
        marker: { color: colours.line },
        insidetextfont: { color: colours.ink },
        hovertemplate: 'left: %{x:.2f} m<extra></extra>',
      };
      return {
        data: [...bars, left],
        layout: {
          barmode: 'stack',
          bargap: 0.25,
          uniformtext: { minsize: 12, mode: 'hide' },
          margin: { l: 84, r: 12, t: 4, b: 44 },
          xaxis: { title: { text: 'metres' }, fixedrange: true, color: colours.ink, gridcolor: colours.line },
          yaxis: { autorange: 'reversed', fixedrange: true, color: colours.ink },
        },
      };
    };
  }
}
