/**
 * An assembly laid out: its things, its ropes as they run, and its knots as they lie in the hand, numbered in the order of tying. A knot or a
 * thing is chosen by a press, and moved by dragging it or with the arrow keys.
 */
import { booleanAttribute, ChangeDetectionStrategy, Component, computed, input, output, signal } from '@angular/core';
import {
  BOARD,
  boardNames,
  KNOT_PICTURE,
  KNOT_RADIUS,
  ropePieces,
  ROPE_COLOURS,
  ROPE_WIDTH,
  sayBoard,
  shapesOf,
  type Assembly,
  type AssemblyFinding,
} from '@foxtrail/core/assembly';
import { pictureOf } from '../data/assemblies';

/** What is chosen: a knot or a thing, by its id. */
export interface Chosen {
  readonly kind: 'knot' | 'thing';
  readonly id: string;
}
/** How far one is moved: from where it is when that is heard, so that of keys pressed faster than the board is drawn none is lost. */
export interface Moved extends Chosen {
  readonly dx: number;
  readonly dy: number;
}
interface Dragged extends Chosen {
  readonly x: number;
  readonly y: number;
}

/** How far an arrow key moves it; with Shift as far as is large. */
const NUDGE = 10;
const LEAP = 50;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const within = (at: number, size: number): number => Math.round(Math.min(size, Math.max(0, at)));

/** Something of an assembly where it is after it was moved: not beyond the board. */
export function movedBy<T extends { readonly x: number; readonly y: number }>(it: T, { dx, dy }: Moved): T {
  return { ...it, x: within(it.x + dx, BOARD.width), y: within(it.y + dy, BOARD.height) };
}

@Component({
  selector: 'ft-assembly-board',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './board.html',
  styleUrl: './board.scss',
})
export class AssemblyBoard {
  readonly assembly = input.required<Assembly>();
  readonly findings = input<readonly AssemblyFinding[]>([]);
  readonly chosen = input<Chosen | undefined>();
  /** Nothing of it is moved or chosen. */
  readonly still = input(false, { transform: booleanAttribute });
  /** Colours of the ropes of the stock, by index of the rope. */
  readonly colours = input<readonly (string | null)[]>([]);
  readonly choose = output<Chosen | undefined>();
  readonly moved = output<Moved>();

  protected readonly board = BOARD;
  protected readonly radius = KNOT_RADIUS;
  protected readonly picture = KNOT_PICTURE;
  protected readonly outline = ROPE_WIDTH + 4;
  protected readonly width = ROPE_WIDTH;
  /** What is dragged, where it is now. */
  protected readonly dragged = signal<Dragged | undefined>(undefined);

  private readonly laid = computed((): Assembly => {
    const [a, d] = [this.assembly(), this.dragged()];
    if (!d) return a;
    const put = <T extends { readonly id: string; x: number; y: number }>(list: readonly T[]): T[] =>
      list.map((k) => (k.id === d.id ? { ...k, x: d.x, y: d.y } : k));
    return d.kind === 'knot' ? { ...a, knots: put(a.knots) } : { ...a, things: put(a.things) };
  });

  private readonly wrong = computed(
    () => new Set(this.findings().flatMap((f) => (f.about !== undefined && f.severity === 'error' ? [f.about] : []))),
  );

  protected readonly things = computed(() =>
    this.laid().things.map((t) => ({
      ...t,
      shapes: shapesOf(t),
      wrong: this.wrong().has(t.id),
      is: this.isChosen('thing', t.id),
    })),
  );

  protected readonly ropes = computed(() => {
    const a = this.laid();
    return a.ropes.map((_, i) => ({
      colour: this.colours()[i] ?? ROPE_COLOURS[i % ROPE_COLOURS.length],
      pieces: ropePieces(a, i),
    }));
  });

  protected readonly knots = computed(() =>
    this.laid().knots.map((k, i) => ({
      ...k,
      number: i + 1,
      href: pictureOf(k.ref),
      wrong: this.wrong().has(k.id),
      is: this.isChosen('knot', k.id),
    })),
  );

  protected readonly names = computed(() => boardNames(this.laid()));
  protected readonly says = computed(() => sayBoard(this.assembly()));

  private isChosen(kind: Chosen['kind'], id: string): boolean {
    const chosen = this.chosen();
    return chosen?.kind === kind && chosen.id === id;
  }

  protected down(event: PointerEvent, kind: Chosen['kind'], id: string, at: { x: number; y: number }): void {
    if (this.still()) return;
    event.stopPropagation();
    this.choose.emit({ kind, id });
    const target = event.currentTarget as SVGGElement;
    const svg = target.ownerSVGElement;
    const matrix = svg?.getScreenCTM()?.inverse();
    if (!matrix) return;
    const from = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
    target.setPointerCapture(event.pointerId);
    const move = (e: PointerEvent): void => {
      const now = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix);
      this.dragged.set({
        kind,
        id,
        x: within(at.x + now.x - from.x, BOARD.width),
        y: within(at.y + now.y - from.y, BOARD.height),
      });
    };
    const end = (): void => {
      target.removeEventListener('pointermove', move);
      const dragged = this.dragged();
      this.dragged.set(undefined);
      if (dragged && (dragged.x !== at.x || dragged.y !== at.y))
        this.moved.emit({ kind, id, dx: dragged.x - at.x, dy: dragged.y - at.y });
    };
    target.addEventListener('pointermove', move);
    target.addEventListener('pointerup', end, { once: true });
    target.addEventListener('pointercancel', end, { once: true });
  }

  protected key(event: KeyboardEvent, kind: Chosen['kind'], id: string): void {
    if (this.still()) return;
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      this.choose.emit({ kind, id });
      return;
    }
    const arrow = ARROWS[event.key];
    if (!arrow) return;
    event.preventDefault();
    const by = event.shiftKey ? LEAP : NUDGE;
    this.moved.emit({ kind, id, dx: arrow[0] * by, dy: arrow[1] * by });
  }
}
