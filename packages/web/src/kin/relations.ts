/**
 * All relations as a list: what is said, whether it is proved, judged or refuted, and what was compared.
 */
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { MatSnackBar } from '@angular/material/snack-bar';
import { RouterLink } from '@angular/router';
import type { KinRelation } from '@foxtrail/contract';
import { KIN_KINDS, sameName, sayKin, standingOf, type KinKind } from '@foxtrail/core';
import { KinService } from '../data/kin';
import { sayTrouble, troubleOf } from '../data/problem';
import { SessionService } from '../data/session';
import { KinPicture } from './picture';
import { Standing } from './standing';

const STANDINGS = ['proved', 'judged', 'refuted', 'open'] as const;

@Component({
  selector: 'ft-kin-relations',
  imports: [RouterLink, MatButtonModule, MatIconModule, MatMenuModule, KinPicture, Standing],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="bar">
      <input
        type="search"
        aria-label="Find a knot"
        placeholder="Find a knot"
        [value]="query()"
        (input)="query.set(field.value)"
        #field
      />
      <select aria-label="How they stand" [value]="standing()" (change)="standing.set(stood.value)" #stood>
        <option value="">however they stand</option>
        @for (s of standings; track s) {
          <option [value]="s" [selected]="s === standing()">{{ s === 'open' ? 'not proved' : s }}</option>
        }
      </select>
      <select aria-label="Kind of kinship" [value]="kind()" (change)="kind.set($any(chosen.value))" #chosen>
        <option value="">all kinds</option>
        @for (k of kinds; track k) {
          <option [value]="k">{{ k }}</option>
        }
      </select>
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
  private readonly snack = inject(MatSnackBar);
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
      error: (error: unknown) => this.tell(sayTrouble(troubleOf(error))),
    });
  }

  protected takeBack(r: KinRelation): void {
    this.kin.takeBack(r.id).subscribe({
      next: () => {
        this.snack
          .open('The relation was taken back.', 'Undo', { duration: 8000 })
          .onAction()
          .subscribe(() =>
            this.kin
              .say({ from: r.from, to: r.to, kind: r.kind, turns: r.turns, why: r.judged?.why ?? null })
              .subscribe({ error: (error: unknown) => this.tell(sayTrouble(troubleOf(error))) }),
          );
      },
      error: (error: unknown) => this.tell(sayTrouble(troubleOf(error))),
    });
  }

  private tell(text: string): void {
    this.snack.open(text, 'OK', { duration: 8000 });
  }
}
