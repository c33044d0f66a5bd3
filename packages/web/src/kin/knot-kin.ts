/**
 * Kin of one knot: its neighbours, each with the one-line difference, and what can be made of it.
 */
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialog } from '@angular/material/dialog';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { Notices } from '../ui/notices';
import { Router, RouterLink } from '@angular/router';
import { differencesFor, judgedOf } from '@foxtrail/pattern-book';
import {
  behaviourOf,
  drawFigure,
  finishedFigure,
  heartBox,
  MOST_MORE,
  readKnot,
  writeKnot,
  PRACTICE_NAMES,
  type Box,
  type Entry,
  type PracticeSchool,
} from '@foxtrail/core';
import { firstValueFrom } from 'rxjs';
import { Api } from '../data/api';
import { KinService } from '../data/kin';
import { KinWork, type Made } from '../data/kin-work';
import { BenchStore } from '../knot/bench-store';
import { ShelfFacts } from '../knot/shelf-facts';
import { FigureView } from '../ui/figure';
import { BehaviourTable } from '../ui/behaviour-table';
import { BehaviourDialog, type BehaviourData } from './behaviour.dialog';
import { KinPicture } from './picture';
import { Standing } from './standing';
import { StateKinDialog } from './state.dialog';
import { TroubleLine } from '../ui/trouble';
import { Attempt } from '../data/attempt';

/** A little more board about the heart of a knot, so that nothing of it is cut off. */
const roomy = ([l, t, r, b]: Box): Box => {
  const room = 0.07 * Math.max(r - l, b - t);
  return [l - room, t - room, r + room, b + room];
};

@Component({
  selector: 'ft-knot-kin',
  imports: [
    RouterLink,
    MatButtonModule,
    MatIconModule,
    MatProgressBarModule,
    FigureView,
    BehaviourTable,
    KinPicture,
    Standing,
    TroubleLine,
  ],
  providers: [KinWork],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section aria-labelledby="neighbours">
      <div class="title">
        <h2 id="neighbours">Neighbours</h2>
        <span class="soft">{{ family() }}</span>
        <span class="space"></span>
        <a mat-stroked-button routerLink="/kin/map">On the map</a>
        @if (store.mayWrite()) {
          <button mat-stroked-button type="button" (click)="state()"><mat-icon svgIcon="plus" />State kin …</button>
        }
      </div>
      <ft-trouble [text]="trouble()"
        ><button mat-stroked-button type="button" (click)="load()">Try again</button></ft-trouble
      >
      <ul class="neighbours">
        @for (n of neighbours(); track n.link.id) {
          <li class="card">
            <ft-kin-picture [of]="n.ref" />
            <div>
              <h3>
                @if (n.ref.startsWith('knot:')) {
                  <a [routerLink]="['/knot', n.ref.slice(5), 'kin']">{{ kin.nameOf(n.ref) }}</a>
                } @else {
                  {{ kin.nameOf(n.ref) }}
                }
              </h3>
              <p class="difference">{{ n.difference }}</p>
              <ft-standing [of]="n.link" />
              <p class="soft">{{ n.link.proof?.compared }}</p>
              @if (n.link.judged; as j) {
                <p class="soft">Judged{{ j.by ? ' by ' + j.by : '' }}: {{ j.why }}</p>
              }
            </div>
          </li>
        } @empty {
          @if (kin.kin()) {
            <li class="none soft">
              No kin is entered yet. State some, make a knot of this one below, or look through the library on
              <a routerLink="/kin/discover">Discover</a>.
            </li>
          }
        }
      </ul>
    </section>
    @if (store.mayWrite()) {
      <section aria-labelledby="derive">
        <div class="title">
          <h2 id="derive">Derive</h2>
          <span class="soft">A new draft made from this one: figure, halts and texts come along.</span>
          <span class="space"></span>
          @if (work.share() !== undefined) {
            <button mat-stroked-button type="button" (click)="work.cancel()">Stop</button>
          } @else {
            <button mat-flat-button type="button" (click)="derive()">
              {{ made() ? 'Work it out again' : 'See what can be made of it' }}
            </button>
          }
        </div>
        @if (work.share(); as share) {
          <mat-progress-bar mode="determinate" [value]="100 * share" aria-label="Working out what can be made of it" />
        }
        <ft-trouble [text]="refused()" />
        <ul class="made" aria-live="polite">
          @for (m of shown(); track m.key) {
            <li class="card">
              <ft-figure [drawing]="m.drawing" [box]="m.box" [label]="m.made.name" />
              <h3>{{ m.made.name }}</h3>
              <p class="difference">{{ m.made.says }}</p>
              <p class="soft"><span class="chip holds">proved</span> {{ m.made.proof.compared }}</p>
              <div class="acts">
                @if (m.made.derivation.kind === 'turns' || m.made.derivation.kind === 'keeper') {
                  <span class="turns" role="group" [attr.aria-label]="'Turns: ' + m.made.says">
                    <button
                      mat-icon-button
                      type="button"
                      aria-label="One turn less"
                      [disabled]="m.made.turns <= 1 || work.share() !== undefined"
                      (click)="turns(m.key, m.made, m.made.turns - 1)"
                    >
                      <mat-icon svgIcon="minus" />
                    </button>
                    {{ m.made.turns }}
                    <button
                      mat-icon-button
                      type="button"
                      aria-label="One turn more"
                      [disabled]="m.made.turns >= mostMore || work.share() !== undefined"
                      (click)="turns(m.key, m.made, m.made.turns + 1)"
                    >
                      <mat-icon svgIcon="plus" />
                    </button>
                  </span>
                }
                <button mat-stroked-button type="button" [disabled]="keeping()" (click)="keep(m.made)">
                  Make the draft
                </button>
              </div>
            </li>
          } @empty {
            @if (made() && work.share() === undefined) {
              <li class="none soft">
                Nothing can be made of this drawing that the core can prove. A drawing with more room between its
                strands may allow more: tidy it on Draft.
              </li>
            }
          }
        </ul>
      </section>
    }
    <section aria-labelledby="behaviour">
      <div class="title">
        <h2 id="behaviour">Behaviour</h2>
        <span class="soft">What is computed, tested and judged of it</span>
        <span class="space"></span>
        @if (store.mayWrite()) {
          <button mat-stroked-button type="button" (click)="judge()">
            <mat-icon svgIcon="edit" />Judge and test …
          </button>
        }
      </div>
      @if (behaviour().length > 0) {
        <ft-behaviour class="card" [rows]="behaviour()" />
      } @else {
        <p class="soft">Nothing is known of it yet: its drawing decides none of it, and nobody has judged it.</p>
      }
    </section>
    @if (differences().length > 0) {
      <section aria-labelledby="schools">
        <div class="title"><h2 id="schools">Where schools differ on it</h2></div>
        <ul class="schools">
          @for (d of differences(); track d.rule.id) {
            <li>
              <strong>{{ d.rule.title }}</strong> here {{ d.house }}
              @for (o of d.others; track o.says) {
                <span class="soft">{{ names(o.schools) }}: {{ o.says }}</span>
              }
            </li>
          }
        </ul>
        <p class="soft">
          The house’s rules are under <a routerLink="/house">House rules</a>. The entry says whether the lesson names
          the other schools.
        </p>
      </section>
    }
  `,
  styleUrl: './knot-kin.scss',
})
export class KnotKinPage {
  protected readonly store = inject(BenchStore);
  private readonly shelf = inject(ShelfFacts);
  protected readonly kin = inject(KinService);
  protected readonly work = inject(KinWork);
  private readonly api = inject(Api);
  private readonly dialog = inject(MatDialog);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  protected readonly mostMore = MOST_MORE;
  private readonly attempt = new Attempt();
  protected readonly trouble = this.attempt.trouble;
  protected readonly refused = signal<string | undefined>(undefined);
  protected readonly keeping = signal(false);
  protected readonly made = signal<readonly Made[] | undefined>(undefined);
  /** Where a turn was laid several times: what came of it, by the one it began from. */
  private readonly counted = signal<ReadonlyMap<string, Made>>(new Map());
  private readonly ref = computed(() => `knot:${this.shelf.card()?.id ?? ''}`);
  protected readonly neighbours = computed(() => this.kin.neighbours(this.ref()));
  protected readonly family = computed(() => {
    const node = this.kin.node(this.ref());
    return node ? this.kin.familyName(node.family) : '';
  });
  protected readonly behaviour = computed(() => {
    const knot = this.store.knot();
    return knot ? behaviourOf(knot, judgedOf(knot)) : [];
  });

  /** Opens what is judged and tested; what comes of it goes into the entry. */
  protected judge(): void {
    const knot = this.store.knot();
    if (!knot) return;
    this.dialog
      .open<BehaviourDialog, BehaviourData, Entry>(BehaviourDialog, {
        width: '1040px',
        maxWidth: '94vw',
        data: { entry: knot.entry, name: knot.name, judged: judgedOf(knot) },
      })
      .afterClosed()
      .subscribe((entry) => {
        if (entry) this.store.edit({ kind: 'entry', name: knot.name, entry });
      });
  }

  protected readonly differences = computed(() => {
    const knot = this.store.knot();
    return knot ? differencesFor(knot, this.store.practice()) : [];
  });
  protected names = (schools: readonly PracticeSchool[]): string => schools.map((s) => PRACTICE_NAMES[s]).join(', ');
  protected readonly shown = computed(() =>
    (this.made() ?? []).flatMap((once, i) => {
      const key = `${once.kin} ${i}`;
      const made = this.counted().get(key) ?? once;
      const read = readKnot(made.document);
      if (!read.ok) return [];
      const figure = finishedFigure(read.value.method);
      return [{ key, made, drawing: drawFigure(figure), box: roomy(heartBox(figure)) }];
    }),
  );

  constructor() {
    this.load();
  }

  protected load(): void {
    void this.attempt.run(this.kin.load());
  }

  protected state(): void {
    this.dialog.open(StateKinDialog, { width: '640px', maxWidth: '94vw', data: { from: this.ref() } });
  }

  protected async derive(): Promise<void> {
    const knot = this.store.knot();
    if (!knot) return;
    this.refused.set(undefined);
    this.counted.set(new Map());
    this.made.set([]);
    this.refused.set(await this.work.derive(writeKnot(knot), this.store.vocabulary(), (all) => this.made.set(all)));
  }

  protected async turns(key: string, now: Made, more: number): Promise<void> {
    const knot = this.store.knot();
    const once = this.made()?.[Number(key.split(' ').at(-1))];
    if (!knot || !once) return;
    const put = (made: Made): void => this.counted.update((c) => new Map(c).set(key, made));
    if (more === 1) {
      put(once);
      return;
    }
    this.refused.set(await this.work.turns(writeKnot(knot), this.store.vocabulary(), once, more, put));
    if (this.refused() !== undefined) put(now);
  }

  /** Makes the draft, enters the kinship, and goes to the new knot to see it proved. */
  protected async keep(made: Made): Promise<void> {
    this.keeping.set(true);
    try {
      const card = await firstValueFrom(this.api.create({ document: made.document }));
      await firstValueFrom(
        this.kin.say({
          from: this.ref(),
          to: `knot:${card.id}`,
          kind: made.kin,
          turns: made.kin === 'one more turn' ? made.turns : 1,
          origin: 'derived',
        }),
      );
      await this.router.navigate(['/knot', card.id, 'kin']);
      this.notices.say(`“${card.name}” is on the shelf.`);
    } catch (error) {
      this.notices.trouble(error);
    } finally {
      this.keeping.set(false);
    }
  }
}
