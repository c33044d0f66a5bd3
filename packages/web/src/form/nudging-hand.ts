/**
 * The hand that moves a strand of a form: laid over its picture, it takes the strand under the pointer, or one that keys choose, and
 * tells how far it is drawn.
 */
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import {
  acrossSight,
  beadNearest,
  DRESSINGS,
  placeOf,
  seenBy,
  type Nudge,
  type SetForm,
  type Sight,
  type TrailPosition,
} from '@foxtrail/core';

/** Where places in space are on a picture, in CSS pixels, and how many of them a diameter is. */
export interface OnPaper {
  readonly seenAt: (place: readonly [x: number, y: number, z: number]) => readonly [x: number, y: number];
  readonly scale: () => number;
}

/** A strand in the hand: which, and how far it is drawn across and down the picture, in diameters. */
interface Hand {
  readonly place: TrailPosition;
  readonly across: number;
  readonly down: number;
}

const ARROWS: Readonly<Record<string, readonly [across: number, down: number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
/** How far along a rope a key goes, in points of its trail; how far one pushes, and the least push that counts, in diameters. */
const ALONG = 0.25;
const PUSH = 0.5;
const LEAST_NUDGE = 0.2;
/** A strand is taken whose middle is no farther from the pointer than this, in diameters. */
const GRASP = 0.8;

/** As a file keeps it. */
const neat = (v: number): number => Math.round(v * 100) / 100 + 0;

@Component({
  selector: 'ft-nudging-hand',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      tabindex="0"
      role="application"
      aria-label="Nudge a strand: drag it. By keys: brackets choose the place, arrows push it, Enter lets it go."
      (pointerdown)="take($event)"
      (pointermove)="draw($event)"
      (pointerup)="letGo()"
      (pointercancel)="hand.set(undefined)"
      (keydown)="press($event)"
    >
      @if (seen(); as s) {
        <line [attr.x1]="s.from[0]" [attr.y1]="s.from[1]" [attr.x2]="s.to[0]" [attr.y2]="s.to[1]" />
        <circle [attr.cx]="s.from[0]" [attr.cy]="s.from[1]" r="7" />
        <circle class="tip" [attr.cx]="s.to[0]" [attr.cy]="s.to[1]" r="10" />
      }
    </svg>
  `,
  styles: `
    :host,
    svg {
      position: absolute;
      inset: 0;
      width: 100%;
      height: 100%;
    }
    svg {
      cursor: crosshair;
      touch-action: none;
      border-radius: 10px;
    }
    line {
      stroke: var(--fox-strong);
      stroke-width: 4;
      stroke-linecap: round;
      stroke-dasharray: 1 9;
    }
    circle {
      fill: var(--card);
      stroke: var(--fox-strong);
      stroke-width: 3;
    }
    .tip {
      fill: var(--fox-strong);
    }
  `,
})
export class NudgingHand {
  readonly form = input.required<SetForm>();
  readonly sight = input.required<Sight>();
  readonly paper = input.required<OnPaper>();
  /** The place that is in the hand. */
  readonly taken = output<TrailPosition | undefined>();
  readonly nudged = output<Nudge>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  /** Seen from another side, nothing is in the hand. */
  protected readonly hand = linkedSignal<Sight, Hand | undefined>({
    source: this.sight,
    computation: () => undefined,
  });
  /** Where the pointer took hold, in pixels. */
  private from: readonly [number, number] = [0, 0];

  protected readonly seen = computed(() => {
    const [hand, { seenAt, scale }] = [this.hand(), this.paper()];
    const at = hand && this.placeInSpace(hand.place);
    if (!hand || !at) return undefined;
    const [x, y] = seenAt(at);
    return { from: [x, y] as const, to: [x + hand.across * scale(), y + hand.down * scale()] as const };
  });

  private placeInSpace(place: TrailPosition): ReturnType<typeof placeOf> | undefined {
    const chain = this.form().chains.find((c) => c.rope === place.strand);
    if (!chain) return undefined;
    return placeOf(chain.x, beadNearest(chain, place.at));
  }

  private hold(hand: Hand | undefined): void {
    this.hand.set(hand);
    this.taken.emit(hand?.place);
  }

  /** Takes the strand under the pointer that is nearest to the reader. */
  protected take(event: PointerEvent): void {
    if (event.button !== 0) return;
    event.stopPropagation();
    const [x, y] = [event.offsetX, event.offsetY];
    const { seenAt, scale } = this.paper();
    let best: { readonly place: TrailPosition; readonly near: number } | undefined;
    for (const { rope: strand, at, x: places, radius } of this.form().chains)
      at.forEach((here, i) => {
        const p = placeOf(places, i);
        const [px, py] = seenAt(p);
        if (Math.hypot(px - x, py - y) > GRASP * 2 * radius * scale()) return;
        const [, , near] = seenBy(this.sight(), p);
        if (!best || near > best.near) best = { place: { strand, at: here }, near };
      });
    if (!best) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    this.from = [x, y];
    this.hold({ place: best.place, across: 0, down: 0 });
  }

  protected draw(event: PointerEvent): void {
    const hand = this.hand();
    if (!hand || event.buttons !== 1) return;
    const scale = this.paper().scale();
    const [x, y] = this.from;
    this.hand.set({ ...hand, across: (event.offsetX - x) / scale, down: (event.offsetY - y) / scale });
  }

  protected letGo(): void {
    const hand = this.hand();
    this.hold(undefined);
    if (!hand || Math.hypot(hand.across, hand.down) < LEAST_NUDGE) return;
    const reach = Math.min(1, DRESSINGS.farthest / Math.hypot(hand.across, hand.down));
    const [x, y, z] = acrossSight(this.sight(), reach * hand.across, reach * hand.down);
    const { strand, at } = hand.place;
    this.nudged.emit({ place: { strand, at: neat(at) }, by: [neat(x), neat(y), neat(z)] });
  }

  protected press(event: KeyboardEvent): void {
    const { key } = event;
    const hand = this.hand();
    const way = ARROWS[key];
    if (key === '[' || key === ']') this.goAlong(key === ']' ? ALONG : -ALONG);
    else if (way && hand) this.hold({ ...hand, across: hand.across + way[0] * PUSH, down: hand.down + way[1] * PUSH });
    else if (way) this.goAlong(0);
    else if (key === 'Enter' && hand) this.letGo();
    else if (key === 'Escape' && hand) this.hold(undefined);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  /** Takes a strand so far along the trail from the one in the hand, at first the middle of the first rope; beyond an end, the next rope. */
  private goAlong(by: number): void {
    const { chains } = this.form();
    const was = this.hand()?.place;
    const index = Math.max(
      0,
      chains.findIndex((c) => c.rope === was?.strand),
    );
    const [own, next] = [chains[index], chains.at((index + Math.sign(by)) % chains.length)];
    if (!own || !next) return;
    const at = (was?.at ?? own.at[own.at.length >> 1]!) + by;
    const isOn = at >= own.at[0]! && at <= own.at.at(-1)!;
    const place = isOn ? { strand: own.rope, at } : { strand: next.rope, at: by > 0 ? next.at[0]! : next.at.at(-1)! };
    this.hold({ place, across: 0, down: 0 });
  }

  /** Takes the keyboard. */
  focus(): void {
    this.host.nativeElement.querySelector('svg')?.focus();
  }
}
