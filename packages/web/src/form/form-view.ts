/**
 * A knot as it lies in the hand: set by computation, looked at from its stations, measured.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
  type ElementRef,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatIconModule } from '@angular/material/icon';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import {
  beadNearest,
  capital,
  methodFor,
  nameOfPlace,
  sayRefusal,
  placeOf,
  seenBy,
  sightOf,
  STATION_NAMES,
  STATION_TURNS,
  strandWord,
  type Nudge,
  type RopeForm,
  type SetForm,
  type Setting,
  type Station,
  type TrailPosition,
  type TrailSpan,
  type Turning,
  type Vocabulary,
} from '@foxtrail/core';
import { marksSeen, measureForm, type Flaw, formSvg, viewOf } from '@foxtrail/core/form';
import { FormingService } from '../data/forming';
import { Theme } from '../data/theme';
import { FormFiles } from './form-files';
import { FormStrip } from './form-strip';
import { NudgingHand, type OnPaper } from './nudging-hand';
import { roundOf, SeenMarks } from './seen-marks';
import { Space, type InSpace } from './space';

/** What the stations are called. */
const STATION_WORDS: Readonly<Record<Station, string>> = {
  front: 'As tied',
  back: 'From behind',
  left: 'From the left',
  right: 'From the right',
  end: 'End on',
};

/** What arrow keys do: so far across, so far up. */
const ARROWS: Readonly<Record<string, readonly [across: number, up: number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
/** How far a key turns the knot, and a pixel of dragging, in radians. */
const KEY_TURN = Math.PI / 12;
const DRAG_TURN = 0.009;

@Component({
  selector: 'ft-form-view',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatIconModule,
    MatProgressBarModule,
    FormFiles,
    FormStrip,
    NudgingHand,
    SeenMarks,
  ],
  providers: [FormingService],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="picture">
      <div
        #paper
        class="paper"
        tabindex="0"
        role="group"
        aria-label="The knot in the hand. Drag it, or hold Shift and press arrow keys, to turn it; arrow keys alone go from side to side."
        (keydown)="press($event)"
        (pointerdown)="grip($event)"
        (pointermove)="drag($event)"
        (pointerup)="letGo()"
        (pointercancel)="letGo()"
      >
        @if (table()) {
          <!-- The knot in space stands here, drawn by the turntable. -->
        } @else if (url(); as src) {
          <img [src]="src" [alt]="said()" draggable="false" />
        } @else if (trouble()) {
          <p class="trouble" role="alert">{{ trouble() }}</p>
        }
        @if (rings().length > 0) {
          <svg class="rings" aria-hidden="true">
            @for (r of rings(); track $index) {
              <circle [attr.cx]="r.x" [attr.cy]="r.y" [attr.r]="r.r" />
            }
          </svg>
        }
        @if (nudging() && form(); as f) {
          <ft-nudging-hand
            [form]="f"
            [sight]="sight()"
            [paper]="onPaper()"
            (taken)="taken.set($event)"
            (nudged)="nudged.emit($event)"
          />
        }
      </div>
      <div class="sides">
        <mat-button-toggle-group
          [value]="turned() ? null : station()"
          (change)="lookFrom($event.value)"
          hideSingleSelectionIndicator
          aria-label="Side"
        >
          @for (s of stations; track s) {
            <mat-button-toggle [value]="s">{{ words[s] }}</mat-button-toggle>
          }
        </mat-button-toggle-group>
        @if (table(); as t) {
          <button mat-icon-button type="button" aria-label="Nearer" (click)="t.nearer(1.25)">
            <mat-icon svgIcon="plus" />
          </button>
          <button mat-icon-button type="button" aria-label="Farther" (click)="t.nearer(0.8)">
            <mat-icon svgIcon="minus" />
          </button>
        }
      </div>
      @if (form()) {
        <ft-form-strip
          [figure]="setting().figure"
          [vocabulary]="vocabulary()"
          [lit]="shining()"
          (pointed)="onStrip.set($event)"
        />
      }
    </div>
    <section class="facts" aria-live="polite">
      <ng-content select="[above]" />
      @if (forming.share(); as share) {
        <h2>Being set …</h2>
        <mat-progress-bar mode="determinate" [value]="100 * share" aria-label="Set so far" />
        <p class="soft">The ropes are drawn taut; none passes through another.</p>
        <button mat-stroked-button type="button" (click)="forming.stop()">Stop</button>
      } @else if (stopped()) {
        <h2>Stopped</h2>
        <p class="soft">The drawing is as it was. What you see is how far the ropes had come; it is not proved.</p>
        <button mat-stroked-button type="button" (click)="begin()">Set it again</button>
      }
      @if (aside() === 'own') {
        <ng-content />
      } @else if (facts(); as f) {
        <h2><mat-icon [svgIcon]="f.runs ? 'close' : 'ok'" />{{ f.headline }}</h2>
        <p>{{ f.proof }}</p>
        <dl>
          @for (row of f.rows; track row.name) {
            <dt>{{ row.name }}</dt>
            <dd>{{ row.says }}</dd>
          }
        </dl>
        <p class="soft">{{ seenFrom() }}</p>
        <ft-seen-marks
          [figure]="setting().figure"
          [form]="f.form"
          [vocabulary]="vocabulary()"
          [station]="turned() ? undefined : station()"
          [flaws]="flaws()"
          [pointed]="pointed()"
          (lit)="lit.set($event)"
        />
        <ft-form-files
          [figure]="setting().figure"
          [form]="f.form"
          [name]="name()"
          [vocabulary]="vocabulary()"
          [side]="turned() ? 'turned' : station()"
          [svg]="svg()"
        />
      }
    </section>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 350px;
      gap: 18px;
      align-items: start;
    }
    .picture {
      position: sticky;
      top: 0;
    }
    .paper {
      position: relative;
      margin: 4px;
      height: min(48vh, 500px);
      display: grid;
      grid-template: minmax(0, 1fr) / minmax(0, 1fr);
      place-items: center;
      overflow: hidden;
      border-radius: 10px;
    }
    .paper {
      cursor: grab;
      touch-action: pan-y;
    }
    .paper:active {
      cursor: grabbing;
    }
    .paper img {
      pointer-events: none;
      user-select: none;
      width: 100%;
      height: 100%;
      object-fit: contain;
    }
    .trouble {
      max-width: 46ch;
      padding: 20px;
    }
    .paper ::ng-deep canvas {
      grid-area: 1 / 1;
      width: 100%;
      height: 100%;
      touch-action: none;
    }
    .sides {
      display: flex;
      flex-wrap: wrap;
      gap: 4px;
      align-items: center;
      margin-top: 12px;
    }
    mat-button-toggle-group {
      background: var(--card);
    }
    h2 {
      display: flex;
      gap: 8px;
      align-items: center;
      font-size: 18px;
    }
    dl {
      display: grid;
      grid-template-columns: auto 1fr;
      gap: 6px 14px;
      margin: 12px 0;
    }
    dt {
      color: var(--ink-soft);
    }
    dd {
      margin: 0;
      font-weight: 600;
    }
    .rings {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
      pointer-events: none;
    }
    .rings circle {
      fill: none;
      stroke: var(--fox-strong);
      stroke-width: 4;
    }
    ft-form-strip {
      margin-top: 6px;
    }
    @media (max-width: 820px) {
      .picture {
        position: static;
      }
      mat-button-toggle-group {
        flex-wrap: wrap;
      }
      :host {
        grid-template-columns: minmax(0, 1fr);
      }
      .paper {
        height: 44vh;
      }
    }
  `,
})
export class FormView {
  /** What is set, and how. */
  readonly setting = input.required<Setting>();
  readonly name = input.required<string>();
  readonly vocabulary = input.required<Vocabulary>();
  /** What stands beside the picture: what it measures, or what is put there. */
  readonly aside = input<'facts' | 'own'>('facts');
  /** Strands are moved by hand in place of turning the knot. */
  readonly nudging = input(false);
  /** A strand was moved by hand. */
  readonly nudged = output<Nudge>();

  protected readonly forming = inject(FormingService);
  private readonly theme = inject(Theme);
  private readonly space = inject(Space);
  protected readonly stations = STATION_NAMES;
  protected readonly words = STATION_WORDS;
  protected readonly station = signal<Station>('front');
  /** Turned freely; nothing while it is seen from a station. */
  protected readonly turned = signal<Turning | undefined>(undefined);
  /** The knot in space, once it stands there. */
  protected readonly table = signal<InSpace | undefined>(undefined);
  private readonly paper = viewChild.required<ElementRef<HTMLElement>>('paper');
  /** Where the pointer took hold, and how the knot was turned then. */
  private held: { readonly x: number; readonly y: number; readonly from: Turning } | undefined;
  protected readonly trouble = signal('');
  protected readonly stopped = signal(false);
  /** The ropes as they lie now: on their way, or set. */
  private readonly lying = signal<RopeForm | undefined>(undefined);
  protected readonly form = signal<SetForm | undefined>(undefined);

  protected readonly said = computed(
    () =>
      `${this.name()}, ${this.turned() ? 'turned' : STATION_WORDS[this.station()].toLowerCase()}. ${this.seenFrom()}`,
  );
  protected readonly svg = computed(() => {
    const lying = this.lying();
    if (!lying) return undefined;
    return formSvg(this.setting().figure, lying, {
      station: this.station(),
      turn: this.turned(),
      look: this.theme.look(),
      title: this.name(),
      description: this.said(),
      width: 900,
      background: false,
    });
  });
  protected readonly url = signal<string | undefined>(undefined);

  protected readonly facts = computed(() => {
    const form = this.form();
    if (!form) return undefined;
    const { strands, size, contacts } = measureForm(form);
    const several = strands.length > 1;
    const round = (v: number): string => `${v.toFixed(1)} d`;
    return {
      form,
      runs: form.runs,
      headline: form.runs ? 'It runs' : 'Set',
      proof: form.runs
        ? 'Shown is the last moment at which it was proved to be the drawn knot. Pulled further, the rope runs and the knot is lost.'
        : `Proved to be the drawn knot: its crossings were read from ${form.proof.sides === 1 ? 'the front' : `${form.proof.sides} sides`}.`,
      rows: [
        ...strands.map((s) => ({
          name: several
            ? `${capital(strandWord(this.vocabulary(), this.setting().figure, s.rope))} eaten`
            : 'Rope eaten',
          says: round(s.eaten),
        })),
        { name: 'Size', says: `${size.map((v) => v.toFixed(1)).join(' × ')} d` },
        ...contacts.slice(0, 1).map((c) => ({
          name: 'Presses hardest',
          says: `${this.onEachOther(c)}, ${c.force.toFixed(1)} of the pull`,
        })),
        {
          name: 'Sharpest bend',
          says: `radius ${round(Math.min(...strands.map((s) => s.sharpest.radius)))}`,
        },
      ],
    };
  });
  /** What the middle of a stretch is called. */
  private partAt({ strand, from, to }: TrailSpan): string {
    const place = { strand, at: (from + to) / 2 };
    return nameOfPlace(methodFor(this.setting().figure), place, this.vocabulary());
  }
  private onEachOther({ a, b }: { readonly a: TrailSpan; readonly b: TrailSpan }): string {
    const [one, two] = [this.partAt(a), this.partAt(b)];
    return `${one} on ${one === two ? 'itself' : two}`;
  }
  /** What is seen from the side that is looked at. */
  protected readonly seenFrom = computed(() => {
    const form = this.form();
    if (!form || this.turned()) return '';
    const { parallels, crosses } = marksSeen(form, this.station());
    const count = (n: number, one: string, more: string): string =>
      n === 0 ? `no ${more}` : n === 1 ? `one ${one}` : `${n} ${more}`;
    return `From here: ${count(parallels.length, 'pair of strands side by side', 'pairs of strands side by side')}, ${count(crosses.length, 'strand across another', 'strands across others')}.`;
  });

  /** What is to be lit, and the place of a rope that is pointed at in space. */
  protected readonly lit = signal<readonly TrailSpan[]>([]);
  protected readonly pointed = signal<TrailPosition | undefined>(undefined);
  /** What is not dressed, once that is found out. */
  protected readonly flaws = signal<readonly Flaw[]>([]);
  /** What is pointed at on the strip. */
  protected readonly onStrip = signal<readonly TrailSpan[]>([]);
  /** The strand that is in the hand. */
  protected readonly taken = signal<TrailPosition | undefined>(undefined);
  /** What is lit on the form and on the strip: what is in the hand or pointed at. */
  protected readonly shining = computed<readonly TrailSpan[]>(() => {
    const one = this.taken() ?? this.pointed();
    const lists = [this.taken() ? [] : this.onStrip(), this.taken() ? [] : this.lit(), one ? [roundOf(one)] : []];
    return lists.find((l) => l.length > 0) ?? [];
  });
  /** Where what is lit is on a picture that cannot be lit itself. */
  protected readonly rings = computed(() => {
    const form = this.form();
    if (!form || this.table()) return [];
    const { seenAt, scale } = this.onPaper();
    return this.shining().flatMap(({ strand, from, to }) => {
      const chain = form.chains.find((c) => c.rope === strand);
      if (!chain) return [];
      const [x, y] = seenAt(placeOf(chain.x, beadNearest(chain, (from + to) / 2)));
      return [{ x, y, r: 0.8 * scale() }];
    });
  });
  protected readonly sight = computed(() => sightOf(this.turnNow()));
  /** Where places of the form are on the paper; it changes with the side that is seen. */
  protected readonly onPaper = computed((): OnPaper => {
    const [table, form, sight] = [this.table(), this.form(), this.sight()];
    if (table) return { seenAt: table.seenAt, scale: table.scale };
    const { clientWidth, clientHeight } = this.paper().nativeElement;
    const [l, t, r, b] = form ? viewOf(form, { station: this.station(), turn: this.turned() }).box : [0, 0, 1, 1];
    const scale = Math.min(clientWidth / (r - l), clientHeight / (b - t));
    const [left, top] = [clientWidth / 2 - (scale * (l + r)) / 2, clientHeight / 2 - (scale * (t + b)) / 2];
    return {
      seenAt: (p) => {
        const [across, down] = seenBy(sight, p);
        return [left + scale * across, top + scale * down];
      },
      scale: () => scale,
    };
  });

  constructor() {
    effect(() => {
      this.table()?.light(this.shining(), this.theme.look().working);
    });
    effect(() => {
      this.setting();
      untracked(() => this.begin());
    });
    // Once it is set it stands in space, where this browser can show that; else it is drawn from each side.
    effect((clean) => {
      const form = this.form();
      if (!form) return;
      let ended = false;
      const [figure, look] = untracked(() => [this.setting().figure, this.theme.look()] as const);
      const options = {
        label: untracked(this.said),
        turned: (to: Turning) => this.turned.set(to),
        pointed: (place: TrailPosition | undefined) => this.pointed.set(place),
      };
      void this.space.stand(this.paper().nativeElement, { figure, form, look }, options).then((table) => {
        if (ended) table?.end();
        else {
          table?.lookFrom(this.turnNow());
          this.table.set(table);
        }
      });
      clean(() => {
        ended = true;
        untracked(this.table)?.end();
        this.table.set(undefined);
        this.pointed.set(undefined);
        this.lit.set([]);
      });
    });
    effect(() => this.table()?.paint(this.theme.look()));
    effect((clean) => {
      const svg = this.table() ? undefined : this.svg();
      const url = svg === undefined ? undefined : URL.createObjectURL(new Blob([svg], { type: 'image/svg+xml' }));
      this.url.set(url);
      clean(() => url !== undefined && URL.revokeObjectURL(url));
    });
    inject(DestroyRef).onDestroy(() => this.forming.stop());
  }

  /** Sets the figure anew. */
  begin(): void {
    const setting = this.setting();
    this.trouble.set('');
    this.stopped.set(false);
    this.form.set(undefined);
    this.flaws.set([]);
    this.lying.set(undefined);
    // Who wants less motion sees what comes of it, not the way there.
    const seen = (form: RopeForm): void => (LESS_MOTION.matches ? undefined : this.lying.set(form));
    void this.forming.set(setting, seen).then((done) => {
      if (this.setting() !== setting) return;
      if (!done) this.stopped.set(true);
      else if (!done.ok) this.refuse(sayRefusal(done));
      else {
        this.form.set(done.value);
        void this.forming.flaws(setting, done.value).then((found) => {
          if (this.form() === done.value) this.flaws.set(found);
        });
        this.lying.set(done.value);
      }
    });
  }

  /** A form that is not proved is not shown. */
  private refuse(reason: string): void {
    this.lying.set(undefined);
    this.trouble.set(reason);
  }

  protected lookFrom(station: Station): void {
    this.turned.set(undefined);
    this.station.set(station);
    this.table()?.lookFrom(STATION_TURNS[station]);
  }

  private turnBy(from: Turning, yaw: number, pitch: number): void {
    const most = Math.PI / 2;
    this.turned.set({ yaw: from.yaw + yaw, pitch: Math.max(-most, Math.min(most, from.pitch + pitch)) });
  }

  private turnNow(): Turning {
    return this.turned() ?? STATION_TURNS[this.station()];
  }

  protected press(event: KeyboardEvent): void {
    const way = ARROWS[event.key];
    if (!way) return;
    event.preventDefault();
    const [across, up] = way;
    if (event.shiftKey && !this.table()) this.turnBy(this.turnNow(), across * KEY_TURN, up * KEY_TURN);
    else if (across !== 0) {
      const n = STATION_NAMES.length;
      this.lookFrom(STATION_NAMES[(STATION_NAMES.indexOf(this.station()) + across + n) % n]!);
    }
  }

  protected grip(event: PointerEvent): void {
    if (!this.lying() || this.table() || event.button !== 0) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.held = { x: event.clientX, y: event.clientY, from: this.turnNow() };
  }

  protected drag(event: PointerEvent): void {
    const { held } = this;
    if (held) this.turnBy(held.from, -(event.clientX - held.x) * DRAG_TURN, (event.clientY - held.y) * DRAG_TURN);
  }

  protected letGo(): void {
    this.held = undefined;
  }
}

const LESS_MOTION = matchMedia('(prefers-reduced-motion: reduce)');
