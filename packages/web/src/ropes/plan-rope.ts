/**
 * One rope of a plan: what it is cut from, what stands before its first knot, its knots in order, and its tail.
 */
import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { sameName, tailRuleFor, WORKSHOP_PRACTICE, type UseGrade } from '@foxtrail/core';
import {
  loopFrom,
  PLAN_LIMITS,
  planKnotSchema,
  requiredTail,
  type KnotMark,
  type Person,
  type PlanKnot,
  type PlanRope,
  type RopePlanned,
} from '@foxtrail/core/ropes';
import { patternOf } from '@foxtrail/pattern-book';
import { Attempt } from '../data/attempt';
import { KinService } from '../data/kin';
import { RopesService } from '../data/ropes';
import { SessionService } from '../data/session';
import { Select } from '../ui/select';
import { TroubleLine } from '../ui/trouble';
import { Eats, type KnotEats } from './eats';
import { MeasureField } from './measure-field';
import { RopeStrip } from './rope-strip';
import { lengthsSaid } from './lengths-said';

/** Where a loop is not told, an arm goes through it; in millimetres, all round. */
const LOOP_MM = 600;
const LOOPS = new Set(['loop']);

@Component({
  selector: 'ft-plan-rope',
  imports: [
    MatAutocompleteModule,
    MatButtonModule,
    MatIconModule,
    MatMenuModule,
    MatProgressBarModule,
    MeasureField,
    RopeStrip,
    Select,
    TroubleLine,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan-rope.html',
  styleUrl: './plan-rope.scss',
})
export class PlanRopeCard {
  readonly planned = input.required<RopePlanned>();
  readonly mayWrite = input.required<boolean>();
  /** Whose palms and arms are meant. */
  readonly person = input<Person>();
  readonly changed = output<PlanRope>();
  readonly removed = output();
  private readonly kept = inject(RopesService);
  private readonly kin = inject(KinService);
  private readonly sessions = inject(SessionService);
  protected readonly eats = inject(Eats);
  protected readonly attempt = new Attempt();
  protected readonly rope = computed(() => this.planned().rope);
  protected readonly stock = computed(() => this.kept.ropes.list().map((k) => ({ value: k.id, name: k.is.name })));
  protected readonly hosts = computed(() => this.kept.things.list().map((k) => ({ value: k.id, name: k.is.name })));
  protected readonly firsts = [
    { value: 'standing part' as const, name: 'standing part' },
    { value: 'tail' as const, name: 'tail' },
  ];
  protected readonly colour = computed(() => this.kept.ropes.find(this.rope().rope)?.is.colour ?? null);
  protected readonly sayMm = lengthsSaid();
  protected readonly asked = signal('');
  /** A knot of several ropes, of which one is to be chosen. */
  protected readonly choosing = signal<{ readonly ref: string; readonly eats: KnotEats } | undefined>(undefined);

  /** From the first end to the last, as they are in the list. */
  protected readonly rows = computed(() => {
    const { rope, marks } = this.planned();
    const inOrder = [...marks].reverse();
    return rope.knots.map((knot, i) => ({
      knot,
      mark: inOrder[i] as KnotMark,
      last: i === rope.knots.length - 1,
      eats: `eats ${this.sayMm(inOrder[i]!.use.mm)} ± ${this.sayMm(inOrder[i]!.use.spread)}`,
      how:
        inOrder[i]!.use.ties === 0
          ? 'by its form'
          : inOrder[i]!.use.ties === 1
            ? 'by one tie'
            : `by ${inOrder[i]!.use.ties} ties`,
      thing: this.kept.things.list().find((t) => t.is.diameterMm === knot.host?.mm)?.id ?? '',
      wants: this.tailWanted(knot),
      measured:
        this.gradeOf(knot) === 'people depend on it'
          ? 'Where people depend on it a tail is measured, not told by a body: write it in mm, in or d.'
          : undefined,
    }));
  });

  protected readonly found = computed(() => {
    const wanted = sameName(this.asked());
    return this.kin
      .nodes()
      .filter((n) => sameName(n.name).includes(wanted))
      .slice(0, 40);
  });

  /** Grades of knots of the shelf that were put on it here; what they are of the book it says itself. */
  private readonly grades = new Map<string, UseGrade>();
  private gradeOf({ ref }: PlanKnot): UseGrade {
    const own = ref.startsWith('pattern:') ? patternOf(ref.slice('pattern:'.length)) : undefined;
    return this.grades.get(ref) ?? own?.knot.entry.useGrade ?? 'light duty';
  }
  /** What the house asks of a tail of a knot, in millimetres. */
  private tailWanted(knot: PlanKnot): number {
    const practice = this.sessions.session()?.house.practice ?? WORKSHOP_PRACTICE;
    const { diameterMm } = this.rope();
    return requiredTail(tailRuleFor(practice, { useGrade: this.gradeOf(knot) }), diameterMm) * diameterMm;
  }

  protected change(more: Partial<PlanRope>): void {
    this.changed.emit({ ...this.rope(), ...more });
  }
  protected setCount(what: 'copies' | 'takes', field: HTMLInputElement): void {
    const wanted = Math.round(Number(field.value));
    const count = Math.min(PLAN_LIMITS.copies, Math.max(1, Number.isFinite(wanted) ? wanted : 1));
    field.value = String(count);
    this.change({ [what]: count });
  }
  protected changeKnot(at: number, more: Partial<PlanKnot>): void {
    this.change({ knots: this.rope().knots.map((k, i) => (i === at ? { ...k, ...more } : k)) });
  }
  /** What a knot eats set, settled and as it is drawn; asked for when it is opened. */
  protected readonly ways = signal<ReadonlyMap<string, string>>(new Map());
  private readonly waysAsked = new Set<string>();
  protected wayOf = ({ ref, strand }: PlanKnot): string => this.ways().get(`${ref} ${strand}`) ?? 'Reckoning …';
  protected async askWays({ ref, strand }: PlanKnot): Promise<void> {
    const key = `${ref} ${strand}`;
    if (this.waysAsked.has(key)) return;
    this.waysAsked.add(key);
    const tell = (says: string): void => this.ways.update((known) => new Map([...known, [key, says]]));
    const found = await this.eats.of(ref).catch(() => undefined);
    const own = found?.ok ? found.value.strands.find((s) => s.strand === strand) : undefined;
    if (!own) {
      this.waysAsked.delete(key);
      tell('It could not be reckoned. Open it again to try once more.');
      return;
    }
    const withLoop = own.eyes > 0 ? ', its loop in both' : '';
    const said = (settled: string): string =>
      `Set ${own.set.toFixed(1)} d; settled loose on a table ${settled}; as it is drawn ${own.open.toFixed(0)} d${withLoop}.`;
    const loose = await this.eats.settled(ref).catch(() => undefined);
    tell(said(loose?.[strand] === undefined ? 'not reckoned' : `${loose[strand].toFixed(0)} d`));
  }
  /** What one more turn of a knot eats; asked for when its menu is opened. */
  protected readonly turn = signal<{ readonly ref: string; readonly each: number } | undefined>(undefined);
  protected async askTurn({ ref }: PlanKnot): Promise<void> {
    this.turn.set(undefined);
    // Of a knot of the shelf that would be a whole setting.
    if (!ref.startsWith('pattern:')) return;
    const found = await this.eats.of(ref);
    if (found?.ok && found.value.turn !== undefined) this.turn.set({ ref, each: found.value.turn });
  }
  protected addTurns(at: number, by: 1 | -1, each: number): void {
    const turns = (this.rope().knots[at]?.more?.turns ?? 0) + by;
    this.changeKnot(at, { more: turns > 0 ? { turns, each } : null });
  }
  protected removeKnot(at: number): void {
    this.change({ knots: this.rope().knots.filter((_, i) => i !== at) });
  }
  protected moveKnot(at: number, by: -1 | 1): void {
    const knots = [...this.rope().knots];
    const [knot] = knots.splice(at, 1);
    if (knot) knots.splice(at + by, 0, knot);
    this.change({ knots });
  }
  protected cutFrom(id: string): void {
    const rope = this.kept.ropes.find(id);
    this.change({ rope: rope ? rope.id : null, ...(rope ? { diameterMm: rope.is.diameterMm } : {}) });
  }
  protected on(at: number, id: string): void {
    const [thing, host] = [this.kept.things.find(id), this.rope().knots[at]?.host];
    if (thing && host) this.changeKnot(at, { host: { ...host, mm: thing.is.diameterMm } });
  }
  /** Begun so far from the last end: its loop is what comes out. */
  protected beginAt(at: number, mark: KnotMark, farMm: number | null): void {
    if (farMm !== null) this.changeKnot(at, { loopMm: Math.max(0, loopFrom(mark, farMm)) });
  }

  protected async take(ref: string): Promise<void> {
    this.choosing.set(undefined);
    await this.attempt.run(this.eats.of(ref), (found) => {
      if (!found) return;
      if (!found.ok) {
        this.attempt.trouble.set(`${found.reason} ${found.remedy}`);
        return;
      }
      if (found.value.strands.length > 1) this.choosing.set({ ref, eats: found.value });
      else this.put(ref, found.value, 0);
    });
  }

  protected put(ref: string, { knot, strands }: KnotEats, index: number): void {
    this.choosing.set(undefined);
    const strand = strands[index];
    if (!strand) return;
    this.grades.set(ref, knot.entry.useGrade);
    const { knots, diameterMm } = this.rope();
    const made = planKnotSchema.parse({
      ref,
      name: knot.name,
      strand: strand.strand,
      eats: strand.set,
      loopMm: [...LOOPS].some((word) => knot.entry.class.includes(word)) ? LOOP_MM : 0,
      host: strand.host ? { ...strand.host, mm: strand.host.drawn * diameterMm } : null,
    });
    const tail = Math.ceil(this.tailWanted(made) / 10) * 10;
    this.change({ knots: [...knots, { ...made, afterMm: tail }] });
  }
}
