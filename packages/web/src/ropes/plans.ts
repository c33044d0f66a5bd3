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
import { TroubleLine } from '../ui/trouble';
import { Eats } from './eats';
import { Keeping } from './keeping';
import { MeasureField } from './measure-field';
import { dropPlanDraft, leavePlanDraft, planDraft } from './plan-drafts';
import { PlanRopeCard } from './plan-rope';
import { Theirs } from './theirs';
import { lengthsSaid } from './lengths-said';

/** A plan is kept so long after it was changed last, in milliseconds. */
const PAUSE = 700;
/** Height of a bar of the chart, and of what stands around them. */
const BAR = 40;
const AROUND = 60;

@Component({
  selector: 'ft-plans',
  imports: [MatButtonModule, MatIconModule, Chart, MeasureField, PlanRopeCard, Select, Theirs, TroubleLine],
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
  /** The plan as it is written here; what is kept follows it. */
  protected readonly draft = signal<Plan | undefined>(undefined);
  private draftOf: string | undefined;
  protected readonly keeping = signal<Keeping<'plans'> | undefined>(undefined);
  protected readonly unsaved = signal(false);
  private timer: ReturnType<typeof setTimeout> | undefined;
  /** Saves go one after the other. */
  private sent: Promise<void> = Promise.resolve();

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
      untracked(() => this.take(chosen));
    });
    inject(DestroyRef).onDestroy(() => void this.flush());
  }

  /** Lays a plan on the desk, as it was left here where it was not kept. */
  private take(chosen: Kept<Plan> | undefined): void {
    if (chosen?.id === this.draftOf) return;
    void this.flush();
    const left = chosen && planDraft(chosen.id);
    this.draftOf = chosen?.id;
    this.draft.set(left?.plan ?? chosen?.is);
    this.keeping.set(undefined);
    this.unsaved.set(left !== undefined);
    if (left) void this.flush();
  }

  protected open(id: string): void {
    if (id !== '') void this.router.navigate(['/ropes/plans', id]);
  }

  protected async begin(): Promise<void> {
    const names = new Set(this.kept.plans.list().map((k) => k.is.name.toLowerCase()));
    let name = 'New plan';
    for (let n = 2; names.has(name.toLowerCase()); n += 1) name = `New plan ${n}`;
    const plan = planSchema.parse({ name, ropes: [{ name: 'First rope', diameterMm: 10, firstMm: 1000 }] });
    await this.attempt.run(this.kept.plans.add(plan), ([made]) => made && this.open(made.id));
  }

  protected async remove(kept: Kept<Plan>): Promise<void> {
    clearTimeout(this.timer);
    this.unsaved.set(false);
    dropPlanDraft(kept.id);
    const { is } = kept;
    if (!(await this.attempt.run(this.kept.plans.remove(kept.id)))) return;
    void this.router.navigate(['/ropes/plans']);
    this.notices.done(`“${is.name}” is removed.`, () => void this.attempt.run(this.kept.plans.add(is)));
  }

  protected change(more: Partial<Plan>): void {
    this.draft.update((d) => d && { ...d, ...more });
    this.unsaved.set(true);
    const [plan, kept] = [this.draft(), this.kept.plans.find(this.draftOf ?? null)];
    if (plan && kept) leavePlanDraft(kept.id, { revision: planDraft(kept.id)?.revision ?? kept.revision, plan });
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.flush(), PAUSE);
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
    clearTimeout(this.timer);
    const [draft, id] = [this.draft(), this.draftOf];
    if (this.unsaved() && draft && id !== undefined) this.sent = this.sent.then(() => this.keep(id, draft));
    return this.sent;
  }

  private async keep(id: string, draft: Plan): Promise<void> {
    const kept = this.kept.plans.find(id);
    const isHere = (): boolean => this.draftOf === id;
    if (!kept) return;
    const read = planSchema.safeParse(draft);
    if (!read.success) {
      this.attempt.trouble.set(`It is not kept: ${read.error.issues[0]?.message ?? ''}.`);
      return;
    }
    const theirs = isHere() ? this.keeping()?.theirs() : undefined;
    // From the revision that it was written from, unless theirs was seen and is to be put aside.
    const revision = theirs?.revision ?? planDraft(id)?.revision ?? kept.revision;
    const keeping = new Keeping(this.kept.plans, 'plans', { ...kept, revision });
    if (isHere()) this.keeping.set(keeping);
    const done = await keeping.keep(read.data);
    if (done) {
      // What was written meanwhile is sent after it, from what stands now.
      const left = planDraft(id);
      const isLast = left === undefined || JSON.stringify(left.plan) === JSON.stringify(read.data);
      if (isLast) dropPlanDraft(id);
      else leavePlanDraft(id, { revision: this.kept.plans.find(id)?.revision ?? revision, plan: left.plan });
    }
    if (!isHere()) {
      if (!done)
        this.notices.say(`“${draft.name}” could not be kept. It is kept in this browser until it is opened again.`);
      return;
    }
    if (!done) return;
    this.keeping.set(undefined);
    this.attempt.trouble.set(undefined);
    if (this.draft() === draft) this.unsaved.set(false);
  }

  protected takeTheirs(theirs: Kept<Plan>): void {
    this.kept.plans.put(theirs);
    dropPlanDraft(theirs.id);
    this.draft.set(theirs.is);
    this.keeping.set(undefined);
    this.unsaved.set(false);
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
