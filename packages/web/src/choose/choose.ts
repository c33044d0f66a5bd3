/**
 * Choosing a knot: what is wished for at the left, the answers at the right, each with the reasons for and against it.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Router, RouterLink } from '@angular/router';
import type { YES_OR_NO } from '@foxtrail/core';
import { chooseAmong, HOLDS, isOneEnd, LOAD_WAYS, PLACES, USE_GRADES, type Answer, type Wishes } from '@foxtrail/core';
import { ChooseService } from '../data/choose';
import { KinService } from '../data/kin';
import { KinPicture } from '../kin/picture';
import { ClassName } from '../ui/class-name';
import { Select } from '../ui/select';
import { TroubleLine } from '../ui/trouble';

type YesNo = keyof typeof YES_OR_NO;
/** Most knots set side by side. */
const MOST_COMPARED = 4;
/** Answers shown at first; more at a press. */
const SHOWN = 12;

const ASKED: Readonly<Record<YesNo, string>> = {
  fixed: 'The loop stays its size',
  slipped: 'Slipped: one pull undoes it',
  unlikeRopes: 'Unlike ropes',
  underLoad: 'Tied while the rope is loaded',
  oneHand: 'Tied with one hand',
  comesUndone: 'Must come undone after load',
  staysWhenShaken: 'Must stay tied when shaken',
  webbing: 'Flat webbing',
};

@Component({
  selector: 'ft-choose',
  imports: [RouterLink, MatButtonModule, MatProgressBarModule, KinPicture, ClassName, Select, TroubleLine],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './choose.html',
  styleUrl: './choose.scss',
})
export class ChoosePage {
  protected readonly choose = inject(ChooseService);
  private readonly kin = inject(KinService);
  private readonly router = inject(Router);
  protected readonly wanted = [
    { key: 'place', asks: 'Where in the rope', from: PLACES },
    { key: 'holds', asks: 'What it is to hold', from: HOLDS },
    { key: 'load', asks: 'How it is loaded', from: LOAD_WAYS.filter((way) => !isOneEnd(way)) },
    { key: 'grade', asks: 'Grade of use', from: USE_GRADES },
  ] as const;
  protected readonly questions = Object.keys(ASKED).map((key) => ({ key: key as YesNo, asks: ASKED[key as YesNo] }));
  protected readonly mostCompared = MOST_COMPARED;
  protected readonly wishes = signal<Wishes>({});
  protected readonly all = signal(false);
  protected readonly picked = signal<readonly string[]>([]);
  protected readonly asked = computed(() => Object.keys(this.wishes()).length);
  private readonly answers = computed(() => chooseAmong(this.choose.known() ?? [], this.wishes()));
  protected readonly fitting = computed(() => this.answers().filter((a) => !a.ruledOut));
  protected readonly ruledOut = computed(() => this.answers().filter((a) => a.ruledOut));
  protected readonly shown = computed(() => (this.all() ? this.fitting() : this.fitting().slice(0, SHOWN)));

  constructor() {
    void this.choose.load();
  }

  protected known = (ref: string) => this.choose.known()?.find((k) => k.ref === ref);
  protected isOfBook = (ref: string): boolean => ref.startsWith('pattern:');
  protected familyOf = (ref: string): string => this.kin.familyName(this.kin.node(ref)?.family ?? null);

  /** Sets a wish, or takes it back when it is empty. */
  protected wish(key: keyof Wishes, value: string | boolean | undefined): void {
    this.wishes.update((w) => {
      const { [key]: _was, ...others } = w;
      return value === undefined || value === '' ? others : { ...others, [key]: value };
    });
  }

  /** Pressed again, an answer is taken back. */
  protected toggle(key: YesNo, value: boolean): void {
    this.wish(key, this.wishes()[key] === value ? undefined : value);
  }

  protected clear(): void {
    this.wishes.set({});
  }

  protected pick(ref: string): void {
    this.picked.update((p) => (p.includes(ref) ? p.filter((r) => r !== ref) : [...p, ref].slice(-MOST_COMPARED)));
  }

  protected compare(): void {
    void this.router.navigate(['/choose/compare'], { queryParams: { of: this.picked().join(',') } });
  }

  /** How well it fits, in a word for those who cannot see the colours. */
  protected fit({ pro, contra, unknown }: Answer): string {
    const of = pro.length + contra.length + unknown.length;
    return of === 0 ? '' : `${pro.length} of ${of} wishes`;
  }
}
