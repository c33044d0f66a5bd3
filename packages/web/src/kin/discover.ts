/**
 * Looks through the library for kin that nobody entered, in the background, and offers it.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Notices } from '../ui/notices';
import { BOTH_WAYS, sayKin, type KinOffer } from '@foxtrail/core';
import { firstValueFrom } from 'rxjs';
import { KinService } from '../data/kin';
import { KinWork } from '../data/kin-work';
import { inWords } from '../data/problem';
import { SessionService } from '../data/session';
import { KinPicture } from './picture';
import { TroubleLine } from '../ui/trouble';

type State = 'before' | 'reading' | 'comparing' | 'done' | 'stopped';

@Component({
  selector: 'ft-discover',
  imports: [MatButtonModule, MatProgressBarModule, KinPicture, TroubleLine],
  providers: [KinWork],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="bar">
      @if (busy()) {
        <button mat-stroked-button type="button" (click)="stop()">Stop</button>
      } @else {
        <button mat-flat-button type="button" (click)="look()">Look through the library</button>
      }
      <div class="told">
        @if (busy()) {
          <mat-progress-bar
            [mode]="state() === 'reading' ? 'indeterminate' : 'determinate'"
            [value]="100 * (work.share() ?? 0)"
            aria-label="Looking for kin"
          />
        }
        <span class="soft" role="status">{{ told() }}</span>
      </div>
      @if (open().length > 1 && mayWrite()) {
        <button mat-stroked-button type="button" [disabled]="entering()" (click)="enterAll()">
          Enter all {{ open().length }}
        </button>
      }
    </div>
    <ft-trouble [text]="trouble()" />
    <ul>
      @for (o of open(); track key(o)) {
        <li class="card">
          <ft-kin-picture [of]="o.from" />
          <ft-kin-picture [of]="o.to" />
          <div>
            <h3>{{ say(o) }}</h3>
            <p>{{ o.because }}, one is the other: their signatures are equal.</p>
          </div>
          @if (mayWrite()) {
            <div class="acts">
              <button mat-stroked-button type="button" [disabled]="entering()" (click)="enter(o)">Enter it</button>
              <button mat-button type="button" (click)="pass(o)">Pass over</button>
            </div>
          }
        </li>
      }
    </ul>
    @if (state() === 'before') {
      <p class="lead">
        Every drawing is compared with every other: one turn taken out, ends exchanged, loops cut, doubled strands
        halved, bights pulled through, one crossing laid the wrong way. What comes out as another knot of the shelf or
        of the pattern book, and is not entered yet, is offered here.
      </p>
    }
  `,
  styles: `
    :host {
      display: block;
      max-width: 1200px;
      padding: 12px 24px 40px;
    }
    /* Each thing in the bar has a place of its own, so that nothing moves while the search goes on and when it ends. */
    .bar {
      display: grid;
      grid-template-columns: 230px minmax(0, 1fr) 150px;
      gap: 16px;
      align-items: center;
      height: 60px;
    }
    .told {
      position: relative;
      height: 44px;
      padding-top: 10px;
    }
    .told mat-progress-bar {
      position: absolute;
      top: 0;
    }
    .lead {
      max-width: 720px;
      font-size: 17px;
    }
    ul {
      display: grid;
      gap: 10px;
      margin: 12px 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: grid;
      grid-template-columns: 104px 104px 1fr auto;
      gap: 14px;
      align-items: center;
      padding: 12px 14px;
    }
    ft-kin-picture {
      height: 84px;
    }
    h3 {
      font-size: 18px;
    }
    p {
      margin: 4px 0 0;
    }
    .acts {
      display: flex;
      gap: 6px;
    }
    button[mat-stroked-button] {
      background: var(--card);
    }
  `,
})
export class DiscoverPage {
  private readonly kin = inject(KinService);
  protected readonly work = inject(KinWork);
  private readonly sessions = inject(SessionService);
  private readonly notices = inject(Notices);
  protected readonly state = signal<State>('before');
  protected readonly trouble = signal<string | undefined>(undefined);
  protected readonly entering = signal(false);
  private readonly offers = signal<readonly KinOffer[]>([]);
  private readonly passed = signal<ReadonlySet<string>>(new Set());
  protected readonly mayWrite = this.sessions.mayWrite;
  /** What is entered already, either way round where that is the same. */
  private readonly known = computed(() => new Set(this.kin.links().map((l) => this.key(l))));
  protected readonly open = computed(() =>
    this.offers().filter((o) => !this.known().has(this.key(o)) && !this.passed().has(this.key(o))),
  );
  protected readonly busy = computed(() => this.state() === 'reading' || this.state() === 'comparing');
  protected readonly told = computed(() => {
    if (this.state() === 'reading') return 'Fetching the drawings …';
    if (this.state() === 'comparing') return 'Taking every knot apart and looking it up among the others …';
    const entered = this.offers().length - this.open().length;
    if (this.state() === 'before') return '';
    const found = `${this.offers().length} found, ${entered} of them entered or passed over.`;
    return this.state() === 'stopped' ? `Stopped. ${found}` : found;
  });

  protected key(o: Pick<KinOffer, 'kind' | 'from' | 'to'>): string {
    const pair = BOTH_WAYS.has(o.kind) ? [o.from, o.to].sort() : [o.from, o.to];
    return `${o.kind} ${pair.join(' ')}`;
  }
  protected say = (o: KinOffer): string => sayKin(o.kind, this.kin.nameOf(o.from), this.kin.nameOf(o.to));

  protected async look(): Promise<void> {
    this.state.set('reading');
    this.trouble.set(undefined);
    this.offers.set([]);
    try {
      const entries = await this.kin.entries(() => !this.was('stopped'));
      if (this.was('stopped')) return;
      this.state.set('comparing');
      const refused = await this.work.discover(entries, (o) => this.offers.update((all) => [...all, o]));
      if (this.was('stopped')) return;
      this.trouble.set(refused);
      this.state.set('done');
    } catch (error) {
      this.trouble.set(inWords(error));
      this.state.set('stopped');
    }
  }

  private was = (state: State): boolean => this.state() === state;

  protected stop(): void {
    this.state.set('stopped');
    this.work.cancel();
  }

  protected pass(o: KinOffer): void {
    this.passed.update((p) => new Set([...p, this.key(o)]));
  }

  protected enter(o: KinOffer): void {
    void this.enterThese([o]);
  }

  protected enterAll(): void {
    void this.enterThese(this.open());
  }

  private async enterThese(offers: readonly KinOffer[]): Promise<void> {
    this.entering.set(true);
    try {
      for (const { from, to, kind } of offers)
        await firstValueFrom(this.kin.say({ from, to, kind, origin: 'discovered' }));
    } catch (error) {
      this.notices.trouble(error);
    } finally {
      this.entering.set(false);
    }
  }
}
