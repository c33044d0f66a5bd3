/**
 * The desk of an assembly: its board, the run of its ropes, the order of tying, and what is found. It is kept as it is changed.
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
import { MatMenuModule } from '@angular/material/menu';
import { MatTabsModule } from '@angular/material/tabs';
import { Router, RouterLink } from '@angular/router';
import type { Kept } from '@foxtrail/contract/ropes';
import { USE_GRADES } from '@foxtrail/core';
import {
  ASSEMBLY_THINGS,
  assemblyFindings,
  assemblyThingSchema,
  freeId,
  freeSpot,
  purchases,
  sayPurchase,
  withoutThing,
  type Assembly,
  type AssemblyFinding,
  type AssemblyRope,
  type AssemblyThing,
} from '@foxtrail/core/assembly';
import { AssembliesService } from '../data/assemblies';
import { Attempt } from '../data/attempt';
import { KinService } from '../data/kin';
import { RopesService } from '../data/ropes';
import { SessionService } from '../data/session';
import { KeptDraft } from '../ropes/kept-draft';
import { KeptTrouble } from '../ropes/kept-trouble';
import { lengthsSaid } from '../ropes/lengths-said';
import { RopeStrip } from '../ropes/rope-strip';
import { Notices } from '../ui/notices';
import { Select } from '../ui/select';
import { AssemblyAbout } from './about';
import { AssemblyBoard, movedBy, type Chosen, type Moved } from './board';
import { AssemblyFindings } from './findings';
import { RopeRun } from './rope-run';
import { ThingEditor } from './thing-editor';
import { TyingOrder } from './tying-order';

/** How thick things usually are, in millimetres. */
const ACROSS: Readonly<Record<AssemblyThing['kind'], number>> = {
  spar: 50,
  plank: 220,
  post: 90,
  ring: 12,
  carabiner: 10,
  barrel: 580,
  load: 600,
  waist: 300,
  thigh: 190,
};

@Component({
  selector: 'ft-assembly-desk',
  imports: [
    AssemblyAbout,
    AssemblyBoard,
    AssemblyFindings,
    MatButtonModule,
    MatIconModule,
    MatMenuModule,
    MatTabsModule,
    RopeRun,
    RopeStrip,
    RouterLink,
    Select,
    ThingEditor,
    KeptTrouble,
    TyingOrder,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './desk.html',
  styleUrl: './desk.scss',
  host: { '(document:keydown)': 'key($event)' },
})
export class AssemblyDesk {
  /** The assembly’s id, from the address. */
  readonly assembly = input.required<string>();
  private readonly kept = inject(RopesService);
  private readonly known = inject(AssembliesService);
  private readonly kin = inject(KinService);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  protected readonly mayWrite = inject(SessionService).mayWrite;
  protected readonly attempt = new Attempt();
  protected readonly sayMm = lengthsSaid();

  protected readonly grades = USE_GRADES.map((g) => ({ value: g, name: g }));
  protected readonly kinds = ASSEMBLY_THINGS;
  protected readonly there = computed(() => this.kept.assemblies.find(this.assembly()));
  protected readonly written = new KeptDraft(this.kept.assemblies, 'assemblies', this.attempt, this.notices);
  protected readonly draft = this.written.draft;
  protected readonly unsaved = this.written.unsaved;
  protected readonly steps = this.written.steps;
  protected readonly chosen = signal<Chosen | undefined>(undefined);
  /** Which of the panels at the side is open. */
  protected readonly panel = signal(0);

  protected readonly chosenThing = computed(() => {
    const [chosen, draft] = [this.chosen(), this.draft()];
    return chosen?.kind === 'thing' ? draft?.things.find((t) => t.id === chosen.id) : undefined;
  });
  protected readonly chosenKnot = computed(() => {
    const chosen = this.chosen();
    return chosen?.kind === 'knot' ? chosen.id : undefined;
  });
  private readonly refs = computed(() => this.draft()?.knots.map((k) => k.ref) ?? []);
  protected readonly facts = this.known.facts;
  private readonly whole = computed(() => {
    const draft = this.draft();
    return draft && this.known.planned(draft);
  });
  protected readonly planned = computed(() => this.whole()?.ropes ?? []);
  protected readonly findings = computed((): readonly AssemblyFinding[] => {
    const [draft, whole] = [this.draft(), this.whole()];
    return draft ? assemblyFindings(draft, this.known.houseOf(draft, this.sayMm, whole)) : [];
  });
  protected readonly errors = computed(() => this.findings().filter((f) => f.severity === 'error').length);
  protected readonly proving = computed(() => this.refs().some((r) => this.facts()(r) === undefined));
  protected readonly colours = computed(
    () => this.draft()?.ropes.map((r) => this.kept.ropes.find(r.rope)?.is.colour ?? null) ?? [],
  );
  /** On the strips a knot has its number in the order of tying; what is only passed has none. */
  protected readonly numbers = computed(
    () =>
      this.draft()?.ropes.map((r) =>
        r.stops.map((s) =>
          s.kind === 'knot' ? String(this.draft()!.knots.findIndex((k) => k.id === s.knot) + 1) : '·',
        ),
      ) ?? [],
  );
  protected readonly gains = computed(() => {
    const draft = this.draft();
    return draft
      ? purchases(draft).map(
          (p) => `The ${draft.knots.find((k) => k.id === p.knot)?.role.toLowerCase() ?? ''} ${sayPurchase(p)}.`,
        )
      : [];
  });

  constructor() {
    if (!this.kin.kin()) void this.attempt.run(this.kin.load());
    effect(() => {
      const there = this.there();
      untracked(() => {
        if (there?.id !== this.laid) {
          this.steps.clear();
          this.chosen.set(undefined);
        }
        this.laid = there?.id;
        this.written.take(there);
      });
    });
    effect(() => {
      const refs = this.refs();
      untracked(() => {
        const asked = this.known.ask(refs);
        if (asked) void this.attempt.run(asked);
      });
    });
    inject(DestroyRef).onDestroy(() => void this.flush());
  }
  private laid: string | undefined;

  protected write(is: Assembly): void {
    if (this.mayWrite()) this.written.write(is);
  }
  protected change(more: Partial<Assembly>): void {
    const draft = this.draft();
    if (draft) this.write({ ...draft, ...more });
  }
  protected undo(): void {
    this.written.undo();
  }
  protected redo(): void {
    this.written.redo();
  }

  protected key(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (target.closest('input, textarea, mat-select, [role=listbox]')) return;
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z') {
      event.preventDefault();
      if (event.shiftKey) this.redo();
      else this.undo();
    }
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'y') {
      event.preventDefault();
      this.redo();
    }
    const thing = this.chosenThing();
    if (event.key === 'Delete' && thing) this.removeThing(thing);
  }

  protected choose(chosen: Chosen | undefined): void {
    this.chosen.set(chosen);
    if (chosen?.kind === 'knot') this.panel.set(0);
  }

  protected move(moved: Moved): void {
    const draft = this.draft();
    if (!draft) return;
    const put = <T extends { readonly id: string; x: number; y: number }>(all: readonly T[]): T[] =>
      all.map((it) => (it.id === moved.id ? movedBy(it, moved) : it));
    this.write(moved.kind === 'knot' ? { ...draft, knots: put(draft.knots) } : { ...draft, things: put(draft.things) });
  }

  protected addThing(kind: AssemblyThing['kind']): void {
    const draft = this.draft();
    if (!draft) return;
    const count = draft.things.filter((t) => t.kind === kind).length;
    const name = `${kind.charAt(0).toUpperCase()}${kind.slice(1)}${count > 0 ? ` ${count + 1}` : ''}`;
    const thing = assemblyThingSchema.parse({
      id: freeId('t', draft.things),
      name,
      kind,
      acrossMm: ACROSS[kind],
      ...freeSpot(draft),
    });
    this.write({ ...draft, things: [...draft.things, thing] });
    this.choose({ kind: 'thing', id: thing.id });
  }
  protected changeThing(thing: AssemblyThing): void {
    const draft = this.draft();
    if (draft) this.write({ ...draft, things: draft.things.map((t) => (t.id === thing.id ? thing : t)) });
  }
  protected removeThing(thing: AssemblyThing): void {
    const draft = this.draft();
    if (!draft) return;
    this.write(withoutThing(draft, thing.id));
    this.chosen.set(undefined);
    this.notices.done(`“${thing.name}” is taken away.`, () => this.undo());
  }

  protected changeRope(at: number, rope: AssemblyRope): void {
    this.change({ ropes: this.draft()!.ropes.map((r, i) => (i === at ? rope : r)) });
  }
  protected addRope(): void {
    const draft = this.draft();
    if (!draft) return;
    const last = draft.ropes.at(-1);
    const rope: AssemblyRope = {
      name: draft.ropes.length === 0 ? 'Rope' : `Rope ${draft.ropes.length + 1}`,
      rope: last?.rope ?? null,
      diameterMm: last?.diameterMm ?? 10,
      first: 'standing part',
      firstMm: 1000,
      stops: [],
      trimMm: 0,
      copies: 1,
    };
    this.write({ ...draft, ropes: [...draft.ropes, rope] });
  }
  protected removeRope(at: number): void {
    const draft = this.draft();
    if (!draft) return;
    this.write({ ...draft, ropes: draft.ropes.filter((_, i) => i !== at) });
    this.notices.done(`“${draft.ropes[at]?.name ?? ''}” is taken away.`, () => this.undo());
  }

  protected mend({ mend }: AssemblyFinding): void {
    const draft = this.draft();
    if (!draft || !mend) return;
    this.write(mend.to(draft));
    this.notices.done(`Done: ${mend.label.toLowerCase()}.`, () => this.undo());
  }
  /** Points at what a finding is about. */
  protected point({ about }: AssemblyFinding): void {
    const draft = this.draft();
    if (about === undefined || !draft) return;
    this.chosen.set({ kind: draft.knots.some((k) => k.id === about) ? 'knot' : 'thing', id: about });
  }

  protected async remove(kept: Kept<Assembly>): Promise<void> {
    this.written.drop(kept.id);
    const { is } = kept;
    if (!(await this.attempt.run(this.kept.assemblies.remove(kept.id)))) return;
    void this.router.navigate(['/assemblies']);
    this.notices.done(`“${is.name}” is removed.`, () => void this.attempt.run(this.kept.assemblies.add(is)));
  }

  protected flush(): Promise<void> {
    return this.written.flush();
  }
}
