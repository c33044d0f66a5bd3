/** What is seen of a form from a side, as a list: each row lights the stretches that show it, and is lit when one of them is pointed at. */
import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal } from '@angular/core';
import {
  capital,
  methodFor,
  nameOfPlace,
  type Figure,
  type SetForm,
  type Station,
  type TrailPosition,
  type TrailSpan,
  type Vocabulary,
} from '@foxtrail/core';
import { marksSeen, type Flaw } from '@foxtrail/core/form';

/** Something that is seen from a side: what it is, and the stretches of ropes that show it. */
interface SeenMark {
  readonly key: string;
  readonly says: string;
  readonly spans: readonly TrailSpan[];
  /** It is not dressed as it is drawn. */
  readonly flaw?: true;
}

@Component({
  selector: 'ft-seen-marks',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (marks().length > 0) {
      <ul aria-label="What is seen from here">
        @for (mark of marks(); track mark.key) {
          <li>
            <button
              type="button"
              [class.here]="mark.key === here()?.key"
              [class.flaw]="mark.flaw"
              (pointerenter)="chosen.set(mark.spans)"
              (pointerleave)="chosen.set([])"
              (focus)="chosen.set(mark.spans)"
              (blur)="chosen.set([])"
            >
              {{ mark.says }}
            </button>
          </li>
        }
      </ul>
    }
    <p class="pointed" role="status">{{ pointedAt() }}</p>
  `,
  styles: `
    ul {
      display: grid;
      gap: 2px;
      max-height: 136px;
      margin: 0 0 8px;
      padding: 0;
      overflow-y: auto;
      list-style: none;
    }
    button {
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
    button:hover,
    button:focus-visible,
    .here {
      border-left-color: var(--fox-strong);
      background: color-mix(in srgb, var(--fox-strong) 12%, transparent);
    }
    .flaw {
      border-left-color: var(--plum);
      color: var(--plum);
      font-weight: 600;
    }
    .pointed {
      min-height: 1.5em;
      margin: 0 0 4px;
      font-weight: 600;
    }
  `,
})
export class SeenMarks {
  readonly figure = input.required<Figure>();
  readonly form = input.required<SetForm>();
  readonly vocabulary = input.required<Vocabulary>();
  /** The side it is looked at from; nothing while it is turned between them. */
  readonly station = input.required<Station | undefined>();
  /** What is not dressed. */
  readonly flaws = input<readonly Flaw[]>([]);
  /** The place that is pointed at on the form. */
  readonly pointed = input.required<TrailPosition | undefined>();
  /** The stretches of the mark that is chosen, or pointed at on the form. */
  readonly lit = output<readonly TrailSpan[]>();

  protected readonly chosen = signal<readonly TrailSpan[]>([]);
  protected readonly marks = computed<readonly SeenMark[]>(() => {
    const station = this.station();
    const wrong = this.flaws().map((f, i) => this.sayFlaw(f, i));
    if (!station) return wrong;
    const { parallels, crosses } = marksSeen(this.form(), station);
    const said = (one: TrailPosition, word: string, two: TrailPosition, more = ''): string => {
      const [a, b] = [this.partAt(one), this.partAt(two)];
      return `${capital(a)} ${word} ${a === b ? 'another stretch of it' : b}${more}`;
    };
    return [
      ...wrong,
      ...parallels.map(({ a, b, length }, i): SeenMark => ({
        key: `side ${i}`,
        says: said(middleOf(a), 'beside', middleOf(b), `, ${length.toFixed(1)} d`),
        spans: [a, b],
      })),
      ...crosses.map(({ over, under }, i): SeenMark => ({
        key: `across ${i}`,
        says: said(over, 'across', under),
        spans: [roundOf(over), roundOf(under)],
      })),
    ];
  });
  /** The mark that the place belongs to which is pointed at. */
  protected readonly here = computed(() => {
    const place = this.pointed();
    return place && this.marks().find((m) => m.spans.some((s) => isOn(s, place)));
  });
  protected readonly pointedAt = computed(() => {
    const place = this.pointed();
    return place ? capital(this.partAt(place)) : '';
  });

  constructor() {
    effect(() => {
      this.lit.emit(this.chosen().length > 0 ? this.chosen() : (this.here()?.spans ?? []));
    });
  }

  private sayFlaw(flaw: Flaw, index: number): SeenMark {
    const key = `flaw ${index}`;
    if (flaw.kind === 'needless crossing') {
      const [over, under] = [this.partAt(flaw.over), this.partAt(flaw.under)];
      const what = over === under ? 'another stretch of it' : under;
      return {
        key,
        flaw: true,
        says: `Not dressed: ${over} crosses ${what} once more than drawn`,
        spans: [roundOf(flaw.over), roundOf(flaw.under)],
      };
    }
    const [one, two] = [this.partAt(middleOf(flaw.a)), this.partAt(middleOf(flaw.b))];
    return {
      key,
      flaw: true,
      says: `Not dressed: ${one} lies on the other side of ${one === two ? 'its neighbour' : two} than drawn`,
      spans: [flaw.a, flaw.b],
    };
  }

  /** What a place of a rope is called. */
  private partAt(place: TrailPosition): string {
    return `the ${nameOfPlace(methodFor(this.figure()), place, this.vocabulary())}`;
  }
}

/** Half the stretch that is lit about a place, along its trail. */
const ABOUT = 0.45;
export const roundOf = ({ strand, at }: TrailPosition): TrailSpan => ({ strand, from: at - ABOUT, to: at + ABOUT });
const middleOf = ({ strand, from, to }: TrailSpan): TrailPosition => ({ strand, at: (from + to) / 2 });
const isOn = ({ strand, from, to }: TrailSpan, place: TrailPosition): boolean =>
  strand === place.strand && place.at >= Math.min(from, to) && place.at <= Math.max(from, to);
