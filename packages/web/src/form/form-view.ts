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
  blankKnot,
  capital,
  formSvg,
  methodFor,
  nameOfPlace,
  sayRefusal,
  STATION_NAMES,
  STATION_TURNS,
  strandWord,
  writeKnot,
  type Figure,
  type RopeForm,
  type SetForm,
  type Station,
  type TrailPosition,
  type TrailSpan,
  type Turning,
  type Vocabulary,
} from '@foxtrail/core';
import { marksSeen, measureForm, writeForm } from '@foxtrail/core/form';
import { FormingService } from '../data/forming';
import { Theme } from '../data/theme';
import { fileName, saveFile } from '../ui/save-file';
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
  imports: [MatButtonModule, MatButtonToggleModule, MatIconModule, MatProgressBarModule],
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
    </div>
    <section class="facts" aria-live="polite">
      @if (forming.share(); as share) {
        <h2>Being set …</h2>
        <mat-progress-bar mode="determinate" [value]="100 * share" aria-label="Set so far" />
        <p class="soft">The ropes are drawn taut; none passes through another.</p>
        <button mat-stroked-button type="button" (click)="forming.stop()">Stop</button>
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
        @if (marks().length > 0) {
          <ul class="marks" aria-label="What is seen from here">
            @for (mark of marks(); track mark.key) {
              <li>
                <button
                  type="button"
                  [class.here]="mark.key === here()"
                  (pointerenter)="lit.set(mark.spans)"
                  (pointerleave)="lit.set([])"
                  (focus)="lit.set(mark.spans)"
                  (blur)="lit.set([])"
                >
                  {{ mark.says }}
                </button>
              </li>
            }
          </ul>
        }
        <p class="pointed" role="status">{{ pointedAt() }}</p>
        <div class="files">
          <button mat-button type="button" (click)="save('svg')"><mat-icon svgIcon="download" />Picture (SVG)</button>
          <button mat-button type="button" (click)="save('json')"><mat-icon svgIcon="download" />Form (JSON)</button>
          <button mat-button type="button" (click)="saveSurfaces()">
            <mat-icon svgIcon="download" />Surfaces (glTF)
          </button>
        </div>
      } @else if (stopped()) {
        <h2>Stopped</h2>
        <p class="soft">The drawing is as it was. What you see is how far the ropes had come; it is not proved.</p>
        <button mat-stroked-button type="button" (click)="begin()">Set it again</button>
      }
    </section>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 280px;
      gap: 18px;
      align-items: start;
    }
    .paper {
      margin: 4px;
      height: min(54vh, 520px);
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
      color: var(--soft);
    }
    dd {
      margin: 0;
      font-weight: 600;
    }
    .marks {
      display: grid;
      gap: 2px;
      max-height: 136px;
      margin: 0 0 8px;
      padding: 0;
      overflow-y: auto;
      list-style: none;
    }
    .marks button {
      width: 100%;
      padding: 5px 8px;
      border: 0;
      border-left: 3px solid transparent;
      border-radius: 4px;
      background: none;
      color: inherit;
      font: inherit;
      line-height: 1.3;
      text-align: left;
      cursor: pointer;
    }
    .marks button:hover,
    .marks button:focus-visible,
    .marks .here {
      border-left-color: var(--fox-strong);
      background: color-mix(in srgb, var(--fox-strong) 12%, transparent);
    }
    .pointed {
      min-height: 1.5em;
      margin: 0 0 4px;
      font-weight: 600;
    }
    .files {
      display: flex;
      flex-wrap: wrap;
      margin-left: -12px;
    }
    @media (max-width: 820px) {
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
  readonly figure = input.required<Figure>();
  readonly name = input.required<string>();
  readonly vocabulary = input.required<Vocabulary>();

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
  private readonly form = signal<SetForm | undefined>(undefined);

  protected readonly said = computed(
    () =>
      `${this.name()}, ${this.turned() ? 'turned' : STATION_WORDS[this.station()].toLowerCase()}. ${this.seenFrom()}`,
  );
  private readonly svg = computed(() => {
    const lying = this.lying();
    if (!lying) return undefined;
    return formSvg(this.figure(), lying, {
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
    const { strands, size } = measureForm(form);
    const several = strands.length > 1;
    const round = (v: number): string => `${v.toFixed(1)} d`;
    return {
      runs: form.runs,
      headline: form.runs ? 'It runs' : 'Set',
      proof: form.runs
        ? 'Shown is the last moment at which it was proved to be the drawn knot. Pulled further, the rope runs and the knot is lost.'
        : `Proved to be the drawn knot: its crossings were read from ${form.proof.sides === 1 ? 'the front' : `${form.proof.sides} sides`}.`,
      rows: [
        ...strands.map((s) => ({
          name: several ? `${capital(strandWord(this.vocabulary(), this.figure(), s.rope))} eaten` : 'Rope eaten',
          says: round(s.eaten),
        })),
        { name: 'Size', says: `${size.map((v) => v.toFixed(1)).join(' × ')} d` },
        {
          name: 'Sharpest bend',
          says: `radius ${round(Math.min(...strands.map((s) => s.sharpest.radius)))}`,
        },
      ],
    };
  });
  /** What is seen from the side that is looked at. */
  protected readonly seenFrom = computed(() => {
    const form = this.form();
    if (!form || this.turned()) return '';
    const { parallels, crosses } = marksSeen(form, this.station());
    const count = (n: number, one: string, more: string): string =>
      n === 0 ? `no ${more}` : n === 1 ? `one ${one}` : `${n} ${more}`;
    return `From here: ${count(parallels.length, 'pair of strands side by side', 'pairs of strands side by side')}, ${count(crosses.length, 'strand across another', 'strands across others')}.`;
  });

  /** What is seen from here, with the stretches it is seen on. */
  protected readonly marks = computed<readonly SeenMark[]>(() => {
    const form = this.form();
    if (!form || this.turned()) return [];
    const { parallels, crosses } = marksSeen(form, this.station());
    const name = (place: TrailPosition): string => this.partAt(place);
    return [
      ...parallels.map(({ a, b, length }, i): SeenMark => {
        const [one, two] = [name(middleOf(a)), name(middleOf(b))];
        return {
          key: `side ${i}`,
          says: `${capital(one)} beside ${two === one ? 'another stretch of it' : two}, ${length.toFixed(1)} d`,
          spans: [a, b],
        };
      }),
      ...crosses.map(({ over, under }, i): SeenMark => {
        const [one, two] = [name(over), name(under)];
        return {
          key: `across ${i}`,
          says: `${capital(one)} across ${two === one ? 'another stretch of it' : two}`,
          spans: [roundOf(over), roundOf(under)],
        };
      }),
    ];
  });
  /** What is lit from the list, and the place of a rope that is pointed at in space. */
  protected readonly lit = signal<readonly TrailSpan[]>([]);
  private readonly pointed = signal<TrailPosition | undefined>(undefined);
  /** The mark that the place belongs to which is pointed at. */
  protected readonly here = computed(() => {
    const place = this.pointed();
    return place && this.marks().find((m) => m.spans.some((s) => isOn(s, place)))?.key;
  });
  protected readonly pointedAt = computed(() => {
    const place = this.pointed();
    return place ? capital(this.partAt(place)) : '';
  });

  /** What a place of a rope is called. */
  private partAt(place: TrailPosition): string {
    return `the ${nameOfPlace(methodFor(this.figure()), place, this.vocabulary())}`;
  }

  constructor() {
    effect(() => {
      const place = this.pointed();
      const mark = this.marks().find((m) => m.key === this.here());
      const spans = this.lit().length > 0 ? this.lit() : (mark?.spans ?? (place ? [roundOf(place)] : []));
      this.table()?.light(spans, this.theme.look().working);
    });
    effect(() => {
      this.figure();
      untracked(() => this.begin());
    });
    // Once it is set it stands in space, where this browser can show that; else it is drawn from each side.
    effect((clean) => {
      const form = this.form();
      if (!form) return;
      let ended = false;
      const [figure, look] = untracked(() => [this.figure(), this.theme.look()] as const);
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
    const figure = this.figure();
    this.trouble.set('');
    this.stopped.set(false);
    this.form.set(undefined);
    this.lying.set(undefined);
    const document = writeKnot({ ...blankKnot(this.name()), method: methodFor(figure) });
    // Who wants less motion sees what comes of it, not the way there.
    const seen = (form: RopeForm): void => (LESS_MOTION.matches ? undefined : this.lying.set(form));
    void this.forming.set(figure, document, seen).then((done) => {
      if (this.figure() !== figure) return;
      if (!done) this.stopped.set(true);
      else if (!done.ok) this.refuse(sayRefusal(done));
      else {
        this.form.set(done.value);
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

  /** The surfaces of ropes and hosts, each a node by its name. */
  protected saveSurfaces(): void {
    const form = this.form();
    if (!form) return;
    const figure = this.figure();
    const named = (id: string): string => strandWord(this.vocabulary(), figure, id);
    void Promise.all([import('@foxtrail/core/mesh'), import('@foxtrail/core/gltf')]).then(
      ([{ meshesOf }, { writeGlb }]) => {
        const bytes = writeGlb(this.name(), meshesOf(figure.ropes, form, this.theme.look()), named);
        saveFile(
          new Blob([bytes as Uint8Array<ArrayBuffer>], { type: 'model/gltf-binary' }),
          `${fileName(this.name())}-set.glb`,
        );
      },
    );
  }

  protected save(kind: 'svg' | 'json'): void {
    const [form, svg] = [this.form(), this.svg()];
    if (!form || svg === undefined) return;
    const content = kind === 'svg' ? svg : JSON.stringify(writeForm(this.name(), form), null, 1);
    const type = kind === 'svg' ? 'image/svg+xml' : 'application/json';
    const side = kind === 'svg' ? `-${this.turned() ? 'turned' : this.station()}` : '';
    saveFile(new Blob([content], { type }), `${fileName(this.name())}-set${side}.${kind}`);
  }
}

/** Something that is seen from a side: what it is, and the stretches of ropes that show it. */
interface SeenMark {
  readonly key: string;
  readonly says: string;
  readonly spans: readonly TrailSpan[];
}

/** Half the stretch that is lit about a place, along its trail. */
const ABOUT = 0.45;
const roundOf = ({ strand, at }: TrailPosition): TrailSpan => ({ strand, from: at - ABOUT, to: at + ABOUT });
const middleOf = ({ strand, from, to }: TrailSpan): TrailPosition => ({ strand, at: (from + to) / 2 });
const isOn = ({ strand, from, to }: TrailSpan, place: TrailPosition): boolean =>
  strand === place.strand && place.at >= Math.min(from, to) && place.at <= Math.max(from, to);

const LESS_MOTION = matchMedia('(prefers-reduced-motion: reduce)');
