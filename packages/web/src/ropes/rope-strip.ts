/**
 * A rope of a plan laid out straight, from its first end to its last: its knots in order, and how far from the last end each begins and ends.
 * Not to scale, so that short stretches can be read beside long ones; the lengths are written.
 */
import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { KnotMark, RopePlanned } from '@foxtrail/core/ropes';
import { lengthsSaid } from './lengths-said';

/** Width of the picture, and what it keeps free at both ends. */
const WIDTH = 1000;
const EDGE = 16;
/** A knot’s own width, and the least of a stretch between two. */
const KNOT = 74;
const LEAST = 70;
/** So many knots lie in one row, of this height: else their names could not be read. */
const IN_A_ROW = 5;
const HIGH = 138;
/** A name has so many letters. */
const LETTERS = 19;

interface Stretch {
  readonly x: number;
  readonly width: number;
  readonly says: string;
}

interface KnotDrawn {
  readonly x: number;
  readonly number: number;
  readonly name: string;
  readonly far: string;
  readonly near: string;
}

@Component({
  selector: 'ft-rope-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="'0 0 ' + width + ' ' + drawn().length * high" role="img" [attr.aria-label]="label()">
      @for (row of drawn(); track $index) {
        <g [attr.transform]="'translate(0 ' + $index * high + ')'">
          <path class="outline" [attr.d]="'M' + edge + ' 56H' + (width - edge)" />
          <path class="rope" [style.stroke]="colour()" [attr.d]="'M' + edge + ' 56H' + (width - edge)" />
          @for (s of row.stretches; track $index) {
            <text class="length" [attr.x]="s.x + s.width / 2" y="44" text-anchor="middle">{{ s.says }}</text>
          }
          @for (k of row.knots; track $index) {
            <g [attr.transform]="'translate(' + k.x + ' 56)'">
              <rect class="knot" [attr.width]="knot" height="34" y="-17" rx="17" />
              <text class="number" [attr.x]="knot / 2" y="6" text-anchor="middle">
                {{ numbers()?.[k.number - 1] ?? k.number }}
              </text>
              <text class="name" [attr.x]="knot / 2" y="-38" text-anchor="middle">{{ k.name }}</text>
              <path class="tick" [attr.d]="'M0 22v12M' + knot + ' 22v12'" />
              <text class="mark" x="0" y="50" text-anchor="middle">{{ k.far }}</text>
              @if (k.near) {
                <text class="mark" [attr.x]="knot" y="50" text-anchor="middle">{{ k.near }}</text>
              }
            </g>
          }
          <text class="end" [attr.x]="edge" y="126">{{ $first ? planned().rope.first : 'from above' }}</text>
          <text class="end" [attr.x]="width - edge" y="126" text-anchor="end">
            {{ $last ? 'last end: measured from here' : 'goes on below' }}
          </text>
        </g>
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      height: auto;
    }
    .outline {
      stroke: var(--ink);
      stroke-width: 15;
      stroke-linecap: round;
    }
    .rope {
      stroke: var(--rope);
      stroke-width: 11;
      stroke-linecap: round;
    }
    .knot {
      fill: var(--card);
      stroke: var(--ink);
      stroke-width: 3;
    }
    .tick {
      stroke: var(--fox-strong);
      stroke-width: 2.5;
    }
    text {
      fill: var(--ink);
      font-size: 16px;
    }
    .number,
    .name {
      font-weight: 700;
    }
    .mark {
      fill: var(--fox-strong);
      font-weight: 600;
    }
    .length,
    .end {
      fill: var(--ink-soft);
    }
  `,
})
export class RopeStrip {
  private readonly sayMm = lengthsSaid();
  readonly planned = input.required<RopePlanned>();
  /** Its colour, where a rope of the stock is chosen. */
  readonly colour = input<string | null>(null);
  /** What stands on its knots; absent: their numbers. */
  readonly numbers = input<readonly string[]>();
  protected readonly width = WIDTH;
  protected readonly edge = EDGE;
  protected readonly knot = KNOT;

  protected readonly high = HIGH;

  /** The rope in rows. */
  protected readonly drawn = computed(() => {
    const { rope, marks } = this.planned();
    const lengths = [rope.firstMm, ...rope.knots.map((k) => k.afterMm)];
    const inOrder = [...marks].reverse();
    const rows = Math.max(1, Math.ceil(inOrder.length / IN_A_ROW));
    return Array.from({ length: rows }, (_, row) => {
      const own = inOrder.slice(row * IN_A_ROW, (row + 1) * IN_A_ROW);
      // What lies before the first knot of a further row was told at the end of the row above.
      const before = row === 0 ? lengths[0]! : 0;
      return rowOf(own, [before, ...lengths.slice(row * IN_A_ROW + 1).slice(0, own.length)], row, this.sayMm);
    });
  });

  protected readonly label = computed(() => {
    const { rope, marks, cutMm } = this.planned();
    const knots = [...marks]
      .reverse()
      .map((m, i) => `${i + 1}, ${m.knot.name}: begins ${this.sayMm(m.farMm)} from the last end`);
    return [`${rope.name}, ${this.sayMm(cutMm)}`, ...knots].join('; ');
  });
}

/** One row: its stretches, and the knots between them. */
function rowOf(
  marks: readonly KnotMark[],
  lengths: readonly number[],
  row: number,
  sayMm: (mm: number) => string,
): { readonly stretches: readonly Stretch[]; readonly knots: readonly KnotDrawn[] } {
  // Roots of lengths: what is twice as long is longer to see, and what is a hundred times as long does not push all else together.
  const roots = lengths.map((mm) => Math.sqrt(mm));
  const free = WIDTH - 2 * EDGE - marks.length * KNOT - lengths.length * LEAST;
  const whole = roots.reduce((sum, r) => sum + r, 0) || 1;
  const widths = roots.map((r) => LEAST + (Math.max(0, free) * r) / whole);
  const stretches: Stretch[] = [];
  const knots: KnotDrawn[] = [];
  let x = EDGE;
  widths.forEach((width, i) => {
    stretches.push({ x, width, says: lengths[i]! > 0 ? sayMm(lengths[i]!) : '' });
    x += width;
    const mark = marks[i];
    if (!mark) return;
    const { name } = mark.knot;
    knots.push({
      x,
      number: row * IN_A_ROW + i + 1,
      name: name.length > LETTERS ? `${name.slice(0, LETTERS - 1)}…` : name,
      far: sayMm(mark.farMm),
      near: mark.nearMm > 0 ? sayMm(mark.nearMm) : '',
    });
    x += KNOT;
  });
  return { stretches, knots };
}
