/**
 * All relations as a list: what is said, whether it is proved, judged or refuted, and what was compared.
 */
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { Notices } from '../ui/notices';
import { RouterLink } from '@angular/router';
import type { KinRelation } from '@foxtrail/contract';
import { KIN_KINDS, sameName, sayKin, standingOf, type KinKind } from '@foxtrail/core';
import { KinService } from '../data/kin';
import { SessionService } from '../data/session';
import { KinPicture } from './picture';
import { Standing } from './standing';
import { SearchField } from '../ui/search-field';
import { Select } from '../ui/select';

const STANDINGS = [
  { value: 'proved', name: 'proved' },
  { value: 'judged', name: 'judged' },
  { value: 'refuted', name: 'refuted' },
  { value: 'open', name: 'not proved' },
] as const;

@Component({
  selector: 'ft-kin-relations',
  imports: [RouterLink, MatButtonModule, MatIconModule, MatMenuModule, KinPicture, Standing, SearchField, Select],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="bar">
      <ft-search label="Find a knot" [(query)]="query" />
      <ft-select label="How they stand" none="however they stand" [from]="standings" [(value)]="standing" />
      <ft-select label="Kind of kinship" none="all kinds" [from]="kinds" [(value)]="kind" />
      <span class="soft">{{ shown().length }} of {{ kin.links().length }}</span>
    </div>
    <ul>
      @for (r of shown(); track r.id) {
        <li class="card" [class.refuted]="standingOf(r) === 'refuted'">
          <ft-kin-picture [of]="r.from" />
          <ft-kin-picture [of]="r.to" />
          <div>
            <h3>{{ say(r) }} <ft-standing [of]="r" /></h3>
            <p>{{ r.proof?.compared ?? 'It is being compared; look again in a moment.' }}</p>
            @if (r.judged; as j) {
              <p class="soft">Judged{{ j.by ? ' by ' + j.by : '' }}: {{ j.why }}</p>
            }
            @if (judging() === r.id) {
              <p class="judge">
                <input
                  class="field"
                  aria-label="Why it is held to be so"
                  maxlength="300"
                  [value]="r.judged?.why ?? ''"
                  (keydown.enter)="judge(r, why.value)"
                  (keydown.escape)="judging.set('')"
                  #why
                />
                <button mat-stroked-button type="button" (click)="judge(r, why.value)">Judge it so</button>
              </p>
            }
          </div>
          <button mat-icon-button type="button" [matMenuTriggerFor]="menu" [attr.aria-label]="'More for: ' + say(r)">
            <mat-icon svgIcon="more" />
          </button>
          <mat-menu #menu="matMenu">
            @for (ref of [r.from, r.to]; track ref) {
              @if (ref.startsWith('knot:')) {
                <a mat-menu-item [routerLink]="['/knot', ref.slice(5), 'kin']">Open {{ kin.nameOf(ref) }}</a>
              }
            }
            @if (mayWrite()) {
              <button mat-menu-item type="button" (click)="judging.set(r.id)">Judge it …</button>
              @if (r.judged && r.origin !== 'book') {
                <button mat-menu-item type="button" (click)="judge(r, '')">Take the judgement back</button>
              }
              @if (r.origin !== 'book') {
                <button mat-menu-item type="button" (click)="takeBack(r)">Take the relation back</button>
              }
            }
          </mat-menu>
        </li>
      } @empty {
        <li class="none">
          <h2>No relation fits</h2>
          <p class="soft">Change the filters, or look through the library on Discover.</p>
        </li>
      }
    </ul>
  `,
  styleUrl: './relations.scss',
})
export class RelationsPage {
  protected readonly kin = inject(KinService);
  private readonly sessions = inject(SessionService);
  private readonly notices = inject(Notices);
  /** From the address: only those that stand so. */
  readonly only = input<string>();
  protected readonly query = signal('');
  protected readonly standing = signal('');
  protected readonly kind = signal<KinKind | ''>('');
  protected readonly judging = signal('');
  protected readonly standings = STANDINGS;
  protected readonly kinds = KIN_KINDS;
  protected readonly standingOf = standingOf;
  protected readonly mayWrite = this.sessions.mayWrite;
  protected readonly shown = computed(() => {
    const asked = sameName(this.query());
    const order = ['refuted', 'proved', 'judged', 'open', 'waiting'];
    return this.kin
      .links()
      .filter(
        (r) =>
          (this.standing() === '' || standingOf(r) === this.standing()) &&
          (this.kind() === '' || r.kind === this.kind()) &&
          (asked === '' || [r.from, r.to].some((ref) => sameName(this.kin.nameOf(ref)).includes(asked))),
      )
      .sort((a, b) => order.indexOf(standingOf(a)) - order.indexOf(standingOf(b)));
  });

  constructor() {
    effect(() => this.standing.set(this.only() ?? ''));
  }

  protected say = (r: KinRelation): string => sayKin(r.kind, this.kin.nameOf(r.from), this.kin.nameOf(r.to), r.turns);

  protected judge(r: KinRelation, why: string): void {
    const said = why.trim();
    this.kin.judge(r.id, said === '' ? null : said).subscribe({
      next: () => this.judging.set(''),
      error: this.notices.trouble,
    });
  }

  protected takeBack(r: KinRelation): void {
    const { from, to, kind, turns, judged } = r;
    const sayAgain = (): void =>
      void this.kin.say({ from, to, kind, turns, why: judged?.why ?? null }).subscribe({ error: this.notices.trouble });
    this.kin.takeBack(r.id).subscribe({
      next: () => this.notices.done('The relation was taken back.', sayAgain),
      error: this.notices.trouble,
    });
  }
}
