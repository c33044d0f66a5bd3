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
import { planRopeSchema, planSchema, planned, type Plan, type PlanRope } from '@foxtrail/core/ropes';
import { Attempt } from '../data/attempt';
import { FormingService } from '../data/forming';
import { PlacingService } from '../data/placing';
import { KinService } from '../data/kin';
import { RopesService } from '../data/ropes';
import { SessionService } from '../data/session';
import { Notices } from '../ui/notices';
import { Select } from '../ui/select';
import { CutList } from './cut-list';
import { Eats } from './eats';
import { freeName, KeptDraft } from './kept-draft';
import { KeptTrouble } from './kept-trouble';
import { MeasureField } from './measure-field';
import { PlanRopeCard } from './plan-rope';
import { lengthsSaid } from './lengths-said';

@Component({
  selector: 'ft-plans',
  imports: [MatButtonModule, MatIconModule, CutList, MeasureField, PlanRopeCard, Select, KeptTrouble],
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
}
