/**
 * Where learners slip: what they missed when they practised, by crossing on the finished knot and by question, with what few answers leave open, and
 * against the edition before.
 */
import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { DRILL_ROUTES } from '@foxtrail/contract/drill';
import {
  bodyOf,
  crossingsOf,
  curveOf,
  drawFigure,
  EMPTY_METHOD,
  finishedLayout,
  heartBox,
  lengthOf,
  lengthTo,
  passagesOf,
  strandWord,
} from '@foxtrail/core';
import { compared, crossingAsked, missedAt, type AnswerCount, type Share } from '@foxtrail/core/drill';
import { Api } from '../data/api';
import { Attempt } from '../data/attempt';
import { ClassesService } from '../data/classes';
import { Theme } from '../data/theme';
import { BenchStore } from '../knot/bench-store';
import { ShelfFacts } from '../knot/shelf-facts';
import { Chart, type ChartColours, type ChartShown } from '../ui/chart';
import { MarkedFigure, type FigureMark } from '../ui/marked-figure';
import { ropeWave } from '../ui/rope-wave';
import { Select } from '../ui/select';
import { TroubleNote } from '../ui/trouble';
import { HandCard } from './hand-card';

/** The strip of a rope: its width, what is kept free at its ends, its middle line, how far it rises and dips. In CSS pixels. */
const STRIP = { width: 1100, edge: 30, base: 48, swing: 14 } as const;

const percent = (share: number): string => `${Math.round(100 * share)} %`;
/** A share with what the counts leave open: “40 % (16 to 69 %), of 10”. */
const sayShare = ({ share, low, high, of }: Share): string =>
  `${percent(share)} (${Math.round(100 * low)} to ${percent(high)}), of ${of}`;

/** What a question is called on screen. */
function sayQuestion(id: string): string {
  const crossing = crossingAsked(id);
  const [kind = '', of = ''] = id.split(':');
  if (crossing !== undefined && kind === 'lay') return `crossing ${crossing} laid`;
  if (crossing !== undefined) return `slip at crossing ${crossing}${of.startsWith('hand-') ? ', in the hand' : ''}`;
  if (kind === 'lay') return `${of.replace('-', ' ')} laid`;
  const known: Readonly<Record<string, string>> = {
    'judge:front': 'the knot itself',
    'judge:back': 'the knot from behind',
    'judge:set-front': 'the knot in the hand',
    'judge:set-back': 'the knot in the hand, from behind',
    'hand:own': 'its hand',
    'hand:other': 'its mirror image',
    'side:front': 'its front',
    'side:back': 'its back',
  };
  if (known[id] !== undefined) return known[id];
  return kind === 'which' ? `which of four, ${of}` : of.replace(/^like-/, 'taken for it: ').replace(/-/g, ' ');
}

@Component({
  selector: 'ft-learners-tab',
  imports: [Chart, HandCard, MarkedFigure, MatButtonModule, Select, TroubleNote],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (attempt.trouble(); as trouble) {
      <ft-trouble-note title="The answers cannot be shown" [text]="trouble" (again)="load()" />
    } @else if (counts() === undefined) {
      <p class="soft said">Asking for the answers …</p>
    } @else if (editions().length === 0 && group() !== ALL) {
      <div class="empty">
        <h3>No answer of this class has been told yet</h3>
        <button mat-stroked-button type="button" (click)="choose(ALL)">All learners</button>
      </div>
    } @else if (editions().length === 0) {
      <div class="empty">
        <h3>No answer has been told yet</h3>
        <p>
          Learners practise a published knot at the end of its page. Where they agree to it, how each question was
          answered comes here as a count: nothing about them.
          @if (practicePage(); as page) {
            <a [href]="page" target="_blank" rel="noopener">Its practice</a>
          } @else {
            This knot is not published.
          }
        </p>
      </div>
    } @else {
      <div class="bar">
        <span>Missed by learners, in edition</span>
        <ft-select
          label="Edition"
          [from]="choices()"
          [value]="edition()"
          (valueChange)="$event && chosen.set($event)"
        />
        @if (groups().length > 1) {
          <ft-select
            label="Learners"
            class="group"
            [from]="groups()"
            [value]="group()"
            (valueChange)="choose($event)"
          />
        }
        @if (before(); as b) {
          <span class="soft">beside edition {{ b }}</span>
        }
        <span class="space"></span>
        @if (store.mayWrite()) {
          @if (asking()) {
            <span>Forget all of it, for good?</span>
            <button mat-button type="button" (click)="asking.set(false)">Keep it</button>
            <button mat-stroked-button type="button" [disabled]="attempt.busy()" (click)="forget()">Forget it</button>
          } @else {
            <button mat-button type="button" (click)="asking.set(true)">Forget these answers …</button>
          }
        }
      </div>
      @if (missedAnywhere()) {
        @for (lane of lanes(); track lane.rope) {
          <svg class="strip" [attr.viewBox]="'0 0 ' + stripWidth + ' 96'" role="img" [attr.aria-label]="lane.says">
            <path class="outline" [attr.d]="lane.path" />
            <path class="rope" [style.stroke]="lane.colour" [attr.d]="lane.path" />
            @for (m of lane.marks; track m.key) {
              <circle class="heat" [attr.cx]="m.x" [attr.cy]="m.y" [attr.r]="m.r" [attr.fill-opacity]="m.opacity" />
              <text [attr.x]="m.x" [attr.y]="m.y + 5">{{ m.number }}</text>
            }
          </svg>
        }
      }
      <div class="columns">
        <section>
          <div class="paper">
            <ft-marked-figure [drawing]="drawing()" [box]="box()" [marks]="marks()" [label]="label()" />
          </div>
          @if (heat(); as h) {
            @if (store.method(); as method) {
              <ft-hand-card [method]="method" [name]="store.knot()?.name ?? 'Knot'" [heat]="h" />
            }
          }
          <p class="soft">
            The larger the disc on a crossing, the more learners missed the slip there, or laid it the wrong way.
            Crossings are those of the drawing on the bench: numbers may have moved since that edition.
          </p>
        </section>
        <section>
          <ft-chart [shows]="chart()" [height]="60 + 30 * rows().length" />
          <table class="table">
            <thead>
              <tr>
                <th scope="col">Question</th>
                <th scope="col">Missed</th>
                @if (before()) {
                  <th scope="col">Before</th>
                }
              </tr>
            </thead>
            <tbody>
              @for (r of rows(); track r.question) {
                <tr>
                  <th scope="row">{{ r.name }}</th>
                  <td>{{ r.says }}</td>
                  @if (before()) {
                    <td>
                      {{ r.was }}
                      @if (r.differs) {
                        <span class="chip" [class.holds]="r.better" [class.fails]="!r.better">{{
                          r.better ? 'better' : 'worse'
                        }}</span>
                      }
                    </td>
                  }
                </tr>
              }
            </tbody>
          </table>
          <p class="soft">
            In brackets what so few answers leave open, with 95 %. Better or worse is said where the two do not meet.
            Who answers may answer often, and anybody may: it is a hint where to look, no measure of learners.
          </p>
        </section>
      </div>
    }
  `,
  styles: `
    :host {
      display: block;
      padding-top: 14px;
    }
    .said {
      margin: 0;
    }
    .bar {
      display: flex;
      flex-wrap: wrap;
      gap: 8px 14px;
      align-items: center;
      margin-bottom: 12px;
    }
    .bar ft-select {
      width: 110px;
    }
    .bar ft-select.group {
      width: 200px;
    }
    .space {
      flex: 1;
    }
    .strip {
      display: block;
      width: 100%;
      height: auto;
      margin-bottom: 10px;
    }
    .strip path {
      fill: none;
      stroke-linecap: round;
    }
    .strip .outline {
      stroke: var(--ink);
      stroke-width: 11;
    }
    .strip .rope {
      stroke-width: 8;
    }
    .strip .heat {
      fill: var(--plum);
      stroke: var(--card);
      stroke-width: 1.5px;
    }
    .strip text {
      fill: var(--ink);
      font-size: 14px;
      font-weight: 700;
      text-anchor: middle;
      paint-order: stroke;
      stroke: var(--card);
      stroke-width: 3px;
    }
    .columns {
      display: grid;
      grid-template-columns: minmax(0, 2fr) minmax(0, 3fr);
      gap: 20px;
    }
    .paper {
      height: 360px;
      padding: 6px;
    }
    ft-marked-figure {
      height: 100%;
    }
    td {
      white-space: nowrap;
    }
    @media (max-width: 900px) {
      .columns {
        grid-template-columns: minmax(0, 1fr);
      }
    }
  `,
})
export class LearnersTab {
  protected readonly store = inject(BenchStore);
  private readonly shelf = inject(ShelfFacts);
  private readonly api = inject(Api);
  private readonly theme = inject(Theme);
  protected readonly attempt = new Attempt();
  protected readonly counts = signal<readonly AnswerCount[] | undefined>(undefined);
  protected readonly asking = signal(false);
  private readonly classes = inject(ClassesService);
  protected readonly ALL = 'all';
  /** The class whose answers are shown; or all. */
  protected readonly group = signal<string>(this.ALL);
  protected readonly groups = computed(() => [
    { value: this.ALL, name: 'all learners' },
    ...(this.classes.classes() ?? []).map((c) => ({ value: c.id, name: c.name })),
  ]);
  protected choose(group: string): void {
    if (group === '') return;
    this.group.set(group);
    this.load();
  }
  protected readonly practicePage = computed(() => {
    const published = this.shelf.publication();
    return published ? `/learn/${published.slug}/practice` : undefined;
  });

  /** Editions that were answered about, the newest first. */
  protected readonly editions = computed(() =>
    [...new Set((this.counts() ?? []).map((c) => c.revision))].sort((a, b) => b - a),
  );
  protected readonly choices = computed(() => this.editions().map((e) => ({ value: String(e), name: String(e) })));
  protected readonly chosen = signal('');
  protected readonly edition = computed(() =>
    this.editions().map(String).includes(this.chosen()) ? this.chosen() : String(this.editions()[0] ?? ''),
  );
  /** The edition before it that was answered about. */
  protected readonly before = computed(() => this.editions().find((e) => e < Number(this.edition())));

  private readonly figure = computed(() => finishedLayout(this.store.method() ?? EMPTY_METHOD).figure);
  protected readonly drawing = computed(() => drawFigure(this.figure()));
  protected readonly box = computed(() => heartBox(this.figure()));
  private readonly missed = computed(() => missedAt(this.counts() ?? [], Number(this.edition())));
  protected readonly marks = computed((): FigureMark[] =>
    crossingsOf(this.figure()).flatMap((c): FigureMark[] => {
      const share = this.missed().get(c.number);
      return share ? [{ kind: 'heat', point: c.point, share: share.share, label: String(c.number) }] : [];
    }),
  );
  protected readonly label = computed(() => {
    const said = [...this.missed()].map(([n, share]) => `crossing ${n}: ${sayShare(share)}`);
    return said.length === 0 ? 'No slip was answered about yet.' : `Slips that were missed. ${said.join('; ')}.`;
  });

  /** The same on the knot in the hand; nothing while no crossing was answered about. */
  protected readonly heat = computed(() =>
    this.missed().size === 0 ? undefined : new Map([...this.missed()].map(([n, { share }]) => [n, share])),
  );

  protected readonly missedAnywhere = computed(() => this.missed().size > 0);
  protected readonly stripWidth = STRIP.width;
  /** The trail of each rope, with a disc at every passage of a crossing whose slip was missed: where along the rope it happens. */
  protected readonly lanes = computed(() => {
    const [figure, missed] = [this.figure(), this.missed()];
    return figure.ropes.map((rope, i) => {
      const curve = curveOf(rope);
      const length = lengthOf(curve);
      const scale = (STRIP.width - 2 * STRIP.edge) / Math.max(1, length);
      const run = { left: STRIP.edge, scale, base: STRIP.base, swing: STRIP.swing };
      const name = strandWord(this.store.vocabulary(), figure, rope.id);
      const met = passagesOf(figure, rope.id).flatMap((p) => {
        const share = missed.get(p.crossing.number)?.share;
        return share === undefined ? [] : [{ p, share }];
      });
      return {
        rope: rope.id,
        colour: bodyOf(this.theme.look(), i, rope.cordage),
        path: ropeWave(figure, rope, run, 0, length),
        says: `Along the ${name}: ${met.map(({ p, share }) => `crossing ${p.crossing.number}, ${percent(share)} missed`).join('; ')}.`,
        marks: met.map(({ p, share }) => ({
          key: `${p.at}`,
          number: p.crossing.number,
          x: STRIP.edge + lengthTo(curve, p.at) * scale,
          y: STRIP.base + (p.over ? -STRIP.swing : STRIP.swing),
          r: 8 + 14 * share,
          opacity: 0.25 + 0.6 * share,
        })),
      };
    });
  });

  protected readonly rows = computed(() => {
    const [now, before] = [Number(this.edition()), this.before()];
    return compared(this.counts() ?? [], before ?? -1, now)
      .flatMap(({ question, before: was, after, differs }) =>
        after
          ? [
              {
                question,
                share: after,
                was: was ? sayShare(was) : 'not asked',
                differs,
                better: !!was && after.share < was.share,
                name: sayQuestion(question),
                says: sayShare(after),
              },
            ]
          : [],
      )
      .sort((a, b) => b.share.share - a.share.share || a.name.localeCompare(b.name));
  });

  protected readonly chart = computed(() => {
    const rows = this.rows();
    return (c: ChartColours): ChartShown => ({
      data: [
        {
          type: 'bar',
          orientation: 'h',
          x: rows.map((r) => 100 * r.share.share),
          y: rows.map((r) => r.name),
          marker: { color: c.bad },
          error_x: {
            type: 'data',
            symmetric: false,
            array: rows.map((r) => 100 * (r.share.high - r.share.share)),
            arrayminus: rows.map((r) => 100 * (r.share.share - r.share.low)),
            color: c.ink,
            thickness: 1.5,
          },
          hovertemplate: '%{y}: %{x:.0f} %<extra></extra>',
        },
      ],
      layout: {
        margin: { l: 150, r: 12, t: 6, b: 40 },
        xaxis: { title: { text: '% missed' }, range: [0, 100], fixedrange: true, color: c.ink, gridcolor: c.line },
        yaxis: { autorange: 'reversed', automargin: true, fixedrange: true, color: c.ink },
      },
    });
  });

  private readonly id = computed(() => this.shelf.card()?.id);

  constructor() {
    // Without them, all learners are shown.
    this.classes.load().subscribe({ error: () => undefined });
    effect(() => {
      // Asked once it is known which knot it is; what failed is tried again by hand.
      if (this.id() !== undefined) untracked(() => this.load());
    });
  }

  protected load(): void {
    const id = this.id();
    if (id === undefined) return;
    void this.attempt.run(
      this.api.call(DRILL_ROUTES.counts, {
        parameters: { id },
        query: this.group() === this.ALL ? {} : { group: this.group() },
      }),
      ({ counts }) => this.counts.set(counts),
    );
  }

  protected async forget(): Promise<void> {
    const id = this.id();
    if (id === undefined) return;
    if (await this.attempt.run(this.api.call(DRILL_ROUTES.forget, { parameters: { id } }))) this.counts.set([]);
    this.asking.set(false);
  }
}
