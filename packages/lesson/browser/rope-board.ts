/** A board on which a learner leads a rope by finger, mouse or keys, and presses crossings: the picture, what is marked on it, and the pointer. */
import { drawFigure, svgPieces, type Box, type DrawOptions, type Figure, type Point } from '@foxtrail/core';
import { PAGE_LOOK } from '../src/figure.js';

const SVG = 'http://www.w3.org/2000/svg';
/** How near a finger must come to what it takes hold of, and how far it must go before it leads, in CSS pixels. */
const REACH = 30;
const LEAST_LED = 6;

/** Something marked on the board. */
export interface BoardMark {
  readonly kind: 'made' | 'wrong' | 'there' | 'end';
  readonly point: Point;
  /** What it is, for who does not see it; a mark that says what it does is pressed by keys, too. */
  readonly says?: string;
  readonly does?: () => void;
}

/** What is on the board. */
export interface OnBoard {
  readonly figure?: Figure | undefined;
  readonly draw?: DrawOptions;
  readonly marks: readonly BoardMark[];
  /** A way that is shown, dashed. */
  readonly ghost?: readonly Point[] | undefined;
  readonly label: string;
}

export interface BoardHands {
  /** Whether a pointer that comes down here, with so much reach about it in board units, takes hold of the end. */
  readonly grab: (at: Point, reach: number) => boolean;
  /** The way that is led, from where it was taken hold of; called once a frame, and at its end. */
  readonly lead: (way: readonly Point[], isDone: boolean) => void;
  /** The board is pressed where no mark is. */
  readonly press?: (at: Point) => void;
  /** What is seen of the board is moved, by two fingers or by one that holds nothing, and brought nearer; in board units. Absent: it stays. */
  readonly move?: (from: Point, to: Point, nearer: number) => void;
}

/** Two fingers on the board: the place between them, and how far they are apart, in CSS pixels. */
interface Pinch {
  readonly middle: Point;
  readonly apart: number;
}

export class RopeBoard {
  readonly element = document.createElement('div');
  private readonly picture = document.createElementNS(SVG, 'svg');
  private readonly rope = document.createElementNS(SVG, 'g');
  private readonly over = document.createElementNS(SVG, 'g');
  private marks: readonly BoardMark[] = [];
  private frame: number | undefined;

  constructor(
    private box: Box,
    private readonly hands: BoardHands,
  ) {
    this.element.className = 'paper board';
    this.picture.setAttribute('class', 'figure bleed');
    this.picture.setAttribute('role', 'group');
    this.rope.setAttribute('class', 'rope');
    this.rope.setAttribute('fill', 'none');
    this.rope.setAttribute('stroke-linejoin', 'round');
    this.over.setAttribute('class', 'marked');
    this.picture.append(this.rope, this.over);
    this.element.append(this.picture);
    this.see(box);
    this.listen();
  }

  /** Shows this part of the board. */
  see(box: Box): void {
    this.box = box;
    const [l, t, r, b] = box;
    this.picture.setAttribute('viewBox', `${l} ${t} ${r - l} ${b - t}`);
  }

  /** Lays a picture behind everything, as large as the board. */
  lieOn(picture: SVGImageElement, [l, t, r, b]: Box): void {
    for (const [name, value] of Object.entries({ x: l, y: t, width: r - l, height: b - t }))
      picture.setAttribute(name, String(value));
    if (this.picture.firstChild !== picture) this.picture.prepend(picture);
  }

  show({ figure, draw = {}, marks, ghost, label }: OnBoard): void {
    this.marks = marks;
    this.picture.setAttribute('aria-label', label);
    this.rope.innerHTML = figure ? svgPieces(drawFigure(figure, draw), PAGE_LOOK, 'lay-', this.box).join('') : '';
    const held = [...this.over.children].indexOf(document.activeElement as Element);
    const unit = this.unit();
    this.over.replaceChildren(
      ...(ghost && ghost.length > 1 ? [this.way(ghost)] : []),
      ...marks.map((m) => this.mark(m, unit)),
    );
    const again = this.over.children[held];
    if (again instanceof SVGElement && again.tabIndex >= 0) again.focus();
  }

  /** Board units of a CSS pixel. */
  private unit(): number {
    const scale = this.picture.getScreenCTM()?.a ?? 0;
    return scale > 0 ? 1 / scale : (this.box[2] - this.box[0]) / 600;
  }

  private mark({ kind, point: [x, y], says, does }: BoardMark, unit: number): SVGElement {
    const circle = document.createElementNS(SVG, 'circle');
    // As large as a finger needs, whatever the scale; never less than the rope is broad.
    const radius = kind === 'end' ? Math.max(0.9, 13 * unit) : Math.max(1.15, 11 * unit);
    for (const [name, value] of Object.entries({ cx: x, cy: y, r: radius })) circle.setAttribute(name, String(value));
    circle.setAttribute('class', kind);
    if (says !== undefined) circle.setAttribute('aria-label', says);
    if (!does) return circle;
    circle.setAttribute('role', 'button');
    circle.setAttribute('tabindex', '0');
    circle.addEventListener('keydown', (event) => {
      if (event.key !== 'Enter' && event.key !== ' ') return;
      event.preventDefault();
      event.stopPropagation();
      does();
    });
    return circle;
  }

  private way(points: readonly Point[]): SVGElement {
    const line = document.createElementNS(SVG, 'polyline');
    line.setAttribute('points', points.map(([x, y]) => `${x},${y}`).join(' '));
    line.setAttribute('class', 'shown');
    return line;
  }

  private place({ clientX, clientY }: Pick<MouseEvent, 'clientX' | 'clientY'>): Point {
    const matrix = this.picture.getScreenCTM();
    if (!matrix) return [0, 0];
    const p = new DOMPoint(clientX, clientY).matrixTransform(matrix.inverse());
    return [p.x, p.y];
  }

  private listen(): void {
    let way: Point[] = [];
    let led = false;
    let from: Point = [0, 0];
    const finish = (isDone: boolean): void => {
      if (this.frame !== undefined) cancelAnimationFrame(this.frame);
      this.frame = undefined;
      if (led) this.hands.lead(way, isDone);
      way = [];
      led = false;
    };
    this.listenForMoves(() => finish(true));
    this.element.addEventListener('pointerdown', (event) => {
      if (!event.isPrimary || event.button !== 0) return;
      const at = this.place(event);
      from = [event.clientX, event.clientY];
      const reach = REACH * this.unit();
      // The end lies where it lies: a crossing beside it is pressed, and led from it only where the finger goes on.
      if (!this.hands.grab(at, reach)) {
        // Where the view is moved, a finger may be the first of two, or drag: what it presses is pressed when it is lifted.
        if (this.hands.move) this.drags = { at: from, presses: at };
        else if (!this.pressed(at, reach)) return;
        event.preventDefault();
        return;
      }
      way = [at];
      this.element.setPointerCapture(event.pointerId);
      event.preventDefault();
    });
    this.element.addEventListener('pointermove', (event) => {
      if (way.length === 0) return;
      const events = 'getCoalescedEvents' in event ? event.getCoalescedEvents() : [];
      for (const e of events.length > 0 ? events : [event]) way.push(this.place(e));
      led ||= Math.hypot(event.clientX - from[0], event.clientY - from[1]) >= LEAST_LED;
      if (!led) return;
      this.frame ??= requestAnimationFrame(() => {
        this.frame = undefined;
        if (led) this.hands.lead(way, false);
      });
    });
    this.element.addEventListener('pointerup', (event) => {
      const at = this.place(event);
      if (way.length > 0 && !led && !this.pressed(at, REACH * this.unit())) this.hands.press?.(at);
      finish(true);
    });
    this.element.addEventListener('pointercancel', () => finish(true));
  }

  /** A finger that holds nothing: where it was last, in CSS pixels, and what of the board it presses as long as it has not moved. */
  private drags: { readonly at: Point; readonly presses?: Point } | undefined;

  /** What is seen is moved and brought nearer by two fingers, or by a wheel with the control key; moved by one that holds nothing. `leave` ends what is led. */
  private listenForMoves(leave: () => void): void {
    const { move } = this.hands;
    if (!move) return;
    const fingers = new Map<number, Point>();
    let pinch: Pinch | undefined;
    const pinched = (): Pinch | undefined => {
      const [[ax, ay], [bx, by]] = [...fingers.values()].concat([
        [0, 0],
        [0, 0],
      ]) as [Point, Point];
      return fingers.size < 2
        ? undefined
        : { middle: [(ax + bx) / 2, (ay + by) / 2], apart: Math.hypot(ax - bx, ay - by) };
    };
    const seenAt = ([clientX, clientY]: Point): Point => this.place({ clientX, clientY });
    this.element.addEventListener('pointerdown', (event) => {
      fingers.set(event.pointerId, [event.clientX, event.clientY]);
      pinch = pinched();
      if (!pinch) return;
      leave();
      this.drags = undefined;
    });
    this.element.addEventListener('pointermove', (event) => {
      const now: Point = [event.clientX, event.clientY];
      if (!fingers.has(event.pointerId)) return;
      fingers.set(event.pointerId, now);
      const next = pinched();
      if (pinch && next) move(seenAt(pinch.middle), seenAt(next.middle), next.apart / Math.max(1, pinch.apart));
      pinch = next;
      const { drags } = this;
      const still = drags?.presses ? LEAST_LED : 0;
      if (!drags || Math.hypot(now[0] - drags.at[0], now[1] - drags.at[1]) < still) return;
      move(seenAt(drags.at), seenAt(now), 1);
      this.drags = { at: now };
    });
    const lift = ({ pointerId, type }: PointerEvent): void => {
      const presses = type === 'pointerup' ? this.drags?.presses : undefined;
      fingers.delete(pointerId);
      pinch = pinched();
      this.drags = undefined;
      if (presses) this.pressed(presses, REACH * this.unit());
    };
    for (const kind of ['pointerup', 'pointercancel', 'pointerleave'] as const)
      this.element.addEventListener(kind, lift);
    this.element.addEventListener(
      'wheel',
      (event) => {
        if (!event.ctrlKey) return;
        event.preventDefault();
        const at = this.place(event);
        move(at, at, Math.exp(-event.deltaY / 300));
      },
      { passive: false },
    );
  }

  /** Presses the nearest mark that does something; tells whether there was one. */
  private pressed([x, y]: Point, reach: number): boolean {
    const near = this.marks
      .filter((m) => m.does)
      .map((m) => ({ m, far: Math.hypot(m.point[0] - x, m.point[1] - y) }))
      .sort((a, b) => a.far - b.far)[0];
    if (!near || near.far > reach) return false;
    near.m.does?.();
    return true;
  }
}
