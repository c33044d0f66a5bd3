/**
 * House rules: the school that the house begins from, what it does otherwise and why, and what the other schools say.
 */
import { ChangeDetectionStrategy, Component, computed, DestroyRef, inject, linkedSignal, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatButtonModule } from '@angular/material/button';
import { Notices } from '../ui/notices';
import { houseChangeSchema, type House } from '@foxtrail/contract';
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
import { troubleOf } from '../data/problem';
import { SessionService } from '../data/session';
import { Select } from '../ui/select';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';
import { catchError, switchMap, tap, throwError, type Observable } from 'rxjs';

@Component({
  selector: 'ft-house',
  imports: [MatButtonModule, Select, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './house.html',
  styleUrl: './house.scss',
})
export class HousePage {
  private readonly sessions = inject(SessionService);
  private readonly notices = inject(Notices);
  private readonly leaving = inject(DestroyRef);
  private readonly house = computed(() => this.sessions.session()?.house);
  protected readonly schools = PRACTICE_SCHOOLS;
  protected readonly schoolChoices = PRACTICE_SCHOOLS.map((value) => ({ value, name: PRACTICE_NAMES[value] }));
  protected readonly schoolName = (s: PracticeSchool): string => PRACTICE_NAMES[s];
  protected readonly palm = PALM_MM;
  protected readonly mayWrite = this.sessions.mayWrite;
  protected readonly name = linkedSignal(() => this.house()?.name ?? '');
  private readonly practice = linkedSignal((): HousePractice => this.house()?.practice ?? WORKSHOP_PRACTICE);
  protected readonly school = computed(() => this.practice().school);
  private readonly attempt = new Attempt();
  protected readonly busy = this.attempt.busy;
  protected readonly trouble = this.attempt.trouble;
  /** The house as somebody else has changed it meanwhile. */
  protected readonly theirs = signal<House | undefined>(undefined);
  /** Knots that are still to be counted by the rules just saved. */
  protected readonly left = signal(0);
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
  protected begin(school: PracticeSchool | ''): void {
    if (school !== '') this.practice.update((p) => ({ ...p, school }));
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

  /** Drops what was changed here for what somebody else has saved. */
  protected takeTheirs(house: House): void {
    this.theirs.set(undefined);
    this.sessions.takeHouse(house);
    this.undo();
  }

  protected undo(): void {
    this.name.set(this.house()?.name ?? '');
    this.practice.set(this.house()?.practice ?? WORKSHOP_PRACTICE);
    this.trouble.set(undefined);
  }

  protected save(): void {
    const revision = (this.theirs() ?? this.house())?.revision;
    const change = houseChangeSchema.safeParse({ name: this.name(), practice: this.practice(), revision });
    if (!change.success) {
      const [issue] = change.error.issues;
      const id = issue?.path[2];
      const about = RULES.find((r) => r.id === id)?.title;
      this.trouble.set(`It cannot be saved. ${about ? `${about}: ` : ''}${issue?.message ?? ''}.`);
      return;
    }
    void this.attempt.run(
      this.sessions.changeHouse(change.data).pipe(catchError((error: unknown) => this.met(error))),
      () => {
        this.theirs.set(undefined);
        this.notices.say('The house keeps to these rules now.');
        this.count();
      },
    );
  }

  /** Where somebody else has changed the rules meanwhile, theirs are fetched too. */
  private met(error: unknown): Observable<never> {
    const failed = throwError(() => error);
    return troubleOf(error).code === 'rules-moved-on'
      ? this.sessions.presentHouse().pipe(
          tap((house) => this.theirs.set(house)),
          switchMap(() => failed),
        )
      : failed;
  }

  private count(): void {
    this.sessions
      .counting()
      .pipe(takeUntilDestroyed(this.leaving))
      .subscribe({ next: (left) => this.left.set(left), error: () => this.left.set(0) });
  }
}
