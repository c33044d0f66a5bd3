/**
 * The inspection of an assembly: its list, ticked on a phone beside the rope or printed as a card, and the record that comes of it. What is
 * ticked stays in this browser until it is recorded.
 */
import { DatePipe } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { RouterLink } from '@angular/router';
import type { InspectionRecord } from '@foxtrail/contract/assemblies';
import { cautionsFor } from '@foxtrail/core';
import {
  assemblyCautions,
  assemblyFindings,
  inspectionList,
  inspectionVerdict,
  type Inspection,
  type Tick,
} from '@foxtrail/core/assembly';
import { AssembliesService, facesOf } from '../data/assemblies';
import { Attempt } from '../data/attempt';
import { RopesService } from '../data/ropes';
import { SessionService } from '../data/session';
import { lengthsSaid } from '../ropes/lengths-said';
import { Notices } from '../ui/notices';
import { TroubleLine } from '../ui/trouble';
import { AssemblyBoard } from './board';
import { readTicks, dropTicks, leaveTicks } from './ticks';

@Component({
  selector: 'ft-inspect',
  imports: [AssemblyBoard, DatePipe, MatButtonModule, MatIconModule, RouterLink, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './inspect.html',
  styleUrl: './inspect.scss',
})
export class InspectPage {
  readonly assembly = input.required<string>();
  private readonly kept = inject(RopesService);
  private readonly known = inject(AssembliesService);
  private readonly notices = inject(Notices);
  private readonly sayMm = lengthsSaid();
  private readonly sessions = inject(SessionService);
  protected readonly who = this.sessions.session;
  /** Who only reads may tick for themselves, and records nothing. */
  protected readonly mayRecord = this.sessions.mayReview;
  protected readonly attempt = new Attempt();
  protected readonly today = new Date();

  protected readonly there = computed(() => this.kept.assemblies.find(this.assembly()));
  protected readonly ticks = signal<Readonly<Record<string, Tick>>>({});
  protected readonly remarks = signal('');
  protected readonly records = signal<readonly InspectionRecord[] | undefined>(undefined);
  /** The record of which all is shown. */
  protected readonly opened = signal<string | undefined>(undefined);

  private readonly house = computed(() => {
    const there = this.there();
    return there && this.known.houseOf(there.is, this.sayMm);
  });
  private readonly findings = computed(() => {
    const [there, house] = [this.there(), this.house()];
    return there && house ? assemblyFindings(there.is, house) : [];
  });
  protected readonly groups = computed(() => {
    const [there, house] = [this.there(), this.house()];
    if (!there || !house) return [];
    return inspectionList(there.is, this.findings(), house).map((g) => ({
      ...g,
      faces: g.ref === null ? [] : facesOf(g.ref, this.known.facts()(g.ref)),
    }));
  });
  protected readonly cautions = computed(() => {
    const is = this.there()?.is;
    return is ? cautionsFor(is.useGrade, assemblyCautions(is)) : [];
  });
  private readonly items = computed((): Inspection['items'] =>
    this.groups().flatMap((g) =>
      g.items.map((i) => ({ group: g.title, text: i.text, tick: this.ticks()[i.id] ?? ('not looked at' as const) })),
    ),
  );
  protected readonly verdict = computed(() => inspectionVerdict(this.items()));
  protected readonly looked = computed(() => this.items().filter((i) => i.tick !== 'not looked at').length);
  protected readonly all = computed(() => this.items().length);
  protected readonly errors = computed(() => this.findings().filter((f) => f.severity === 'error').length);

  constructor() {
    effect(() => {
      const there = this.there();
      if (!there) return;
      untracked(() => {
        const left = readTicks(there.id, there.revision);
        this.ticks.set(left.ticks);
        this.remarks.set(left.remarks);
        const asked = this.known.ask(there.is.knots.map((k) => k.ref));
        if (asked) void this.attempt.run(asked);
        void this.attempt.run(this.known.inspections(there.id), (records) => this.records.set(records));
      });
    });
  }

  protected tick(id: string, tick: Tick): void {
    this.ticks.update((t) => ({ ...t, [id]: t[id] === tick ? 'not looked at' : tick }));
    this.leave();
  }
  protected write(remarks: string): void {
    this.remarks.set(remarks);
    this.leave();
  }
  private leave(): void {
    const there = this.there();
    if (there) leaveTicks(there.id, { revision: there.revision, ticks: this.ticks(), remarks: this.remarks() });
  }

  protected async record(): Promise<void> {
    const there = this.there();
    if (!there) return;
    const body = { revision: there.revision, items: this.items(), remarks: this.remarks() };
    await this.attempt.run(this.known.record(there.id, body), (made) => {
      this.records.update((r) => [made, ...(r ?? [])]);
      this.clear();
      this.notices.say(`Recorded: ${made.verdict}.`);
    });
  }
  protected clear(): void {
    this.ticks.set({});
    this.remarks.set('');
    dropTicks(this.assembly());
  }
  protected print(): void {
    globalThis.print();
  }
}
