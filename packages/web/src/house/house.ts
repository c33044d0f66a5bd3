/**
 * House rules: the school that the house begins from, what it does otherwise and why, and what the other schools say.
 */
import { ChangeDetectionStrategy, Component, computed, inject, linkedSignal, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatSnackBar } from '@angular/material/snack-bar';
import { houseChangeSchema } from '@foxtrail/contract';
import {
  PALM_MM,
  PRACTICE_NAMES,
  PRACTICE_SCHOOLS,
  RULES,
  sayValue,
  WORKSHOP_PRACTICE,
  type HousePractice,
  type PracticeSchool,
  type Rule,
  type RuleChange,
  type RuleValue,
  type TailDemand,
  type TurnRange,
} from '@foxtrail/core';
import { sayTrouble, troubleOf } from '../data/problem';
import { SessionService } from '../data/session';

@Component({
  selector: 'ft-house',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './house.html',
  styleUrl: './house.scss',
})
export class HousePage {
  private readonly sessions = inject(SessionService);
  private readonly snack = inject(MatSnackBar);
  private readonly house = computed(() => this.sessions.session()?.house);
  protected readonly schools = PRACTICE_SCHOOLS;
  protected readonly schoolName = (s: PracticeSchool): string => PRACTICE_NAMES[s];
  protected readonly palm = PALM_MM;
  protected readonly mayWrite = computed(() => this.sessions.session()?.account?.role === 'author');
  protected readonly name = linkedSignal(() => this.house()?.name ?? '');
  private readonly practice = linkedSignal((): HousePractice => this.house()?.practice ?? WORKSHOP_PRACTICE);
  protected readonly school = computed(() => this.practice().school);
  protected readonly busy = signal(false);
  protected readonly trouble = signal<string | undefined>(undefined);
  protected readonly changed = computed(
    () =>
      this.name() !== this.house()?.name || JSON.stringify(this.practice()) !== JSON.stringify(this.house()?.practice),
  );

  protected readonly rows = computed(() =>
    RULES.map((rule) => {
      const own = this.practice().changes[rule.id];
      const value = own?.value ?? rule.bySchool[this.school()];
      return {
        rule,
        own,
        value,
        says: sayValue(rule, value),
        bySchool: PRACTICE_SCHOOLS.map((s) => {
          const says = sayValue(rule, rule.bySchool[s]);
          return { school: s, says, same: says === sayValue(rule, value) };
        }),
      };
    }),
  );

  protected tail = (v: RuleValue): TailDemand => v as TailDemand;
  protected range = (v: RuleValue): TurnRange => v as TurnRange;
  protected options = (rule: Rule): readonly string[] => (rule.kind === 'choice' ? rule.options : []);

  /** Another school to begin from: what the house does otherwise stays. */
  protected begin(school: string): void {
    const chosen = PRACTICE_SCHOOLS.find((s) => s === school);
    if (chosen) this.practice.update((p) => ({ ...p, school: chosen }));
  }

  protected set(rule: Rule, value: RuleValue): void {
    const same = JSON.stringify(value) === JSON.stringify(rule.bySchool[this.school()]);
    this.change(rule.id, same ? undefined : { value, reason: this.practice().changes[rule.id]?.reason ?? '' });
  }

  protected setPart(rule: Rule, now: RuleValue, part: string, text: string): void {
    const n = Number(text);
    if (text !== '' && Number.isFinite(n)) this.set(rule, { ...(now as TailDemand), [part]: n });
  }

  protected because(rule: Rule, reason: string): void {
    const own = this.practice().changes[rule.id];
    if (own) this.change(rule.id, { ...own, reason });
  }

  protected asSchool(rule: Rule): void {
    this.change(rule.id, undefined);
  }

  private change(id: string, change: RuleChange | undefined): void {
    this.practice.update((p) => {
      const { [id]: _was, ...others } = p.changes;
      return { ...p, changes: change ? { ...others, [id]: change } : others };
    });
  }

  protected undo(): void {
    this.name.set(this.house()?.name ?? '');
    this.practice.set(this.house()?.practice ?? WORKSHOP_PRACTICE);
    this.trouble.set(undefined);
  }

  protected save(): void {
    const change = houseChangeSchema.safeParse({ name: this.name(), practice: this.practice() });
    if (!change.success) {
      const [issue] = change.error.issues;
      const id = issue?.path[2];
      const about = RULES.find((r) => r.id === id)?.title;
      this.trouble.set(`It cannot be saved. ${about ? `${about}: ` : ''}${issue?.message ?? ''}.`);
      return;
    }
    this.busy.set(true);
    this.trouble.set(undefined);
    this.sessions.changeHouse(change.data).subscribe({
      next: () => {
        this.busy.set(false);
        this.snack.open('The house keeps to these rules now.', 'OK', { duration: 5000 });
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.trouble.set(sayTrouble(troubleOf(error)));
      },
    });
  }
}
