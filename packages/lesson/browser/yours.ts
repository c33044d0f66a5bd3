/**
 * A learner's own knot, traced over its photograph, and told what it is: the knot, its mirror image, seen from behind, wrong at which crossing (see the
 * core's `drill/trace`). The photograph is read in the browser and goes nowhere.
 */
import {
  crossingsOf,
  curveOf,
  finishedFigure,
  nearestOn,
  ropeOf,
  strandWord,
  theKnot,
  type Box,
  type Crossing,
  type Figure,
  type KeyBook,
  type Method,
  type Point,
  type Vocabulary,
} from '@foxtrail/core';
import {
  decidedBy,
  judgeTrace,
  mayTurn,
  tracedFigure,
  tracing,
  type PressedEye,
  type Traced,
  type TraceTask,
} from '@foxtrail/core/drill';
import { BoardView, NEARER } from './board-view.js';
import { knotOn } from './knot-on.js';
import { Leading } from './leading.js';
import { press } from './press.js';
import { RopeBoard, type BoardMark } from './rope-board.js';
import { element } from './said.js';

const SVG = 'http://www.w3.org/2000/svg';
/** The board is so many diameters of the traced line wide. */
const WIDE = 44;
const SHAPE = 3 / 4;
/** What is traced looks like no rope of a photograph: its colours, rope by rope. */
const TRACE_COLOURS = ['#d9601a', '#2f6fb3', '#7c2752'] as const;
const coloured = ({ ropes, hosts }: Figure): Figure => ({
  hosts,
  ropes: ropes.map((r, i) => ({ ...r, cordage: { colour: TRACE_COLOURS[i % TRACE_COLOURS.length] } })),
});
/** A loop is pressed on its rope from so near at most, in diameters. */
const NEAR = 4;

/** Lets a learner's own knot be traced on its page. */
export async function showYours(main: HTMLElement): Promise<void> {
  const place = main.querySelector<HTMLElement>('.laying');
  if (!place) return;
  place.hidden = false;
  place.textContent = 'Fetching the knot …';
  const found = await knotOn(main, main.dataset.yours ?? '');
  if (found) new Yours(main, place, found.method, found.book);
  else place.textContent = 'The knot could not be fetched. Load the page again.';
}

class Yours {
  private readonly meant: Figure;
  private readonly tasks: readonly TraceTask[];
  private readonly name: string;
  private readonly words: Vocabulary;
  private readonly board: RopeBoard;
  /** The photograph as it lies on the board. */
  private readonly photograph = document.createElementNS(SVG, 'image');
  private view = new BoardView([0, 0, WIDE, WIDE * SHAPE]);
  private readonly empty = element('p', 'Your photograph comes here. You may trace without one, too.', 'empty soft');
  private readonly moveText = element('p', '', 'say');
  private readonly said = element('div', '', 'said');
  private readonly tools = element('div', '', 'tools');
  private readonly underSwitch = press('', () => this.setUnder(!this.under));
  private readonly back = press('Take back', () => this.takeBack());
  private readonly on = press('Next', () => this.go());
  private readonly nearer = press('Nearer', () => this.bringNearer());
  private readonly whole = press('Whole picture', () => {
    this.view.showWhole();
    this.look();
  });

  private at = 0;
  private leading = new Leading();
  private done: { readonly strand: string; readonly leading: Leading }[] = [];
  private eyes: PressedEye[] = [];
  private under = false;
  private wrongAt: readonly Point[] = [];

  constructor(
    main: HTMLElement,
    place: HTMLElement,
    method: Method,
    private readonly book: KeyBook,
  ) {
    this.meant = finishedFigure(method);
    this.tasks = tracing(this.meant);
    this.name = main.dataset.name ?? '';
    this.words = JSON.parse(main.dataset.words ?? '{}') as Vocabulary;
    this.board = new RopeBoard([0, 0, WIDE, WIDE * SHAPE], {
      grab: (at, reach) => this.task !== undefined && (this.isPressed() || this.leading.isAtEnd(at, reach)),
      lead: (way, isDone) => this.lead(way, isDone),
      press: (at) => this.pressAt(at),
      move: (from, to, nearer) => {
        this.view.drag(from, to);
        this.view.nearer(nearer, from);
        this.look();
      },
    });
    this.photograph.setAttribute('aria-hidden', 'true');
    this.board.element.prepend(this.empty);
    this.said.setAttribute('role', 'status');
    this.on.classList.add('onward');
    this.tools.append(this.underSwitch, this.back, this.on, this.nearer, this.whole);
    const beside = element('div', '', 'beside');
    beside.append(this.picker(), this.moveText, this.said, this.tools);
    place.replaceChildren(this.board.element, beside);
    main.classList.add('by-hand');
    this.setUnder(false);
    this.tell();
    this.look();
  }

  private get task(): TraceTask | undefined {
    return this.tasks[this.at];
  }

  private picker(): HTMLElement {
    const label = element('label', '', 'go pick onward');
    const file = document.createElement('input');
    file.type = 'file';
    file.accept = 'image/*';
    const says = element('span', 'Choose a photograph');
    file.addEventListener('change', () => {
      const [chosen] = file.files ?? [];
      if (!chosen) return;
      const address = URL.createObjectURL(chosen);
      const read = new Image();
      read.onload = () => {
        URL.revokeObjectURL(this.photograph.getAttribute('href') ?? '');
        this.photograph.setAttribute('href', address);
        says.textContent = 'Another photograph';
        label.classList.remove('onward');
        label.classList.add('chosen');
        this.empty.hidden = true;
        const whole: Box = [0, 0, WIDE, (WIDE * read.naturalHeight) / read.naturalWidth];
        this.board.lieOn(this.photograph, whole);
        this.view = new BoardView(whole);
        this.startAnew();
      };
      read.onerror = () => {
        URL.revokeObjectURL(address);
        this.say('wrong', 'This file is no picture that the browser can show.', ['Choose a JPEG, PNG or WebP file.']);
      };
      read.src = address;
    });
    label.append(says, file);
    return label;
  }

  private startAnew(): void {
    this.at = 0;
    this.done = [];
    this.eyes = [];
    this.leading = new Leading();
    this.setUnder(false);
    this.tell();
    this.look();
  }

  /** Nearer to the end that is led, or to what is seen in the middle. */
  private bringNearer(): void {
    this.view.nearer(NEARER);
    if (this.leading.last) this.view.keepInSight(this.leading.last);
    this.look();
  }

  /** Shows what is to be seen of the board now. */
  private look(): void {
    this.board.see(this.view.box);
    this.whole.hidden = this.view.isWhole;
    this.nearer.disabled = this.view.isNearest;
    this.draw();
  }

  private isPressed(): boolean {
    const { task } = this;
    return task?.kind === 'eye' || (task?.kind === 'host' && task.how === 'press');
  }

  private setUnder(to: boolean): void {
    this.under = to;
    this.underSwitch.textContent = to ? 'Goes under' : 'Goes over';
    this.underSwitch.setAttribute('aria-pressed', String(to));
  }

  private lead(way: readonly Point[], isDone: boolean): void {
    if (this.isPressed()) return;
    this.leading.lead(way, this.under && this.task?.kind === 'rope', isDone);
    if (isDone) this.tell();
    if (isDone && this.leading.last && !this.view.isWhole) {
      this.view.keepInSight(this.leading.last);
      this.look();
    } else this.draw();
  }

  private pressAt(at: Point): void {
    const { task } = this;
    if (task?.kind === 'host' && task.how === 'press') {
      this.leading = new Leading();
      this.leading.lead([at], false, true);
    } else if (task?.kind === 'eye') {
      const rope = ropeOf(this.traced(), task.rope.id);
      if (!rope || nearestOn(curveOf(rope), at).away > NEAR) {
        this.say('', 'Press on the rope itself, on the loop that stays.');
        return;
      }
      this.eyes = [...this.eyes, { rope: task.rope.id, point: at }];
      this.at += 1;
    } else return;
    this.tell();
    this.draw();
  }

  private takeBack(): void {
    if (this.leading.mayTakeBack) this.leading.takeBack();
    else if (this.at > 0) {
      this.at -= 1;
      if (this.task?.kind === 'eye') this.eyes = this.eyes.slice(0, -1);
      else this.leading = this.done.pop()?.leading ?? new Leading();
    }
    this.tell();
    this.draw();
  }

  /** On to what is traced next; after the last, the knot is looked at. */
  private go(): void {
    const { task } = this;
    if (!task) {
      this.judge();
      return;
    }
    if (task.kind === 'eye') return;
    const strand = task.kind === 'host' ? task.host.id : task.rope.id;
    this.done.push({ strand, leading: this.leading });
    this.leading = new Leading();
    this.setUnder(false);
    this.at += 1;
    this.tell();
    this.draw();
  }

  private traces(): Traced[] {
    const { task } = this;
    const now = task?.kind === 'host' ? task.host.id : task?.kind === 'rope' ? task.rope.id : undefined;
    return [
      ...this.done.map(({ strand, leading }) => ({ strand, ...leading.led })),
      ...(now === undefined ? [] : [{ strand: now, ...this.leading.led }]),
    ];
  }
  private traced(): Figure {
    return tracedFigure(this.meant, this.traces(), this.eyes);
  }

  private turn(crossing: Crossing): void {
    const own = decidedBy(this.meant, this.traces(), crossing);
    const leading = this.done.find((d) => d.strand === own.strand)?.leading ?? this.leading;
    leading.turn(own.at);
    this.tell();
    this.draw();
  }

  private say(kind: string, head: string, more: readonly string[] = []): void {
    this.said.className = `said ${kind}`;
    this.said.replaceChildren(element('b', head), ...more.map((text) => element('p', text)));
  }

  private sayTask(task: TraceTask): string {
    const strand = strandWord(this.words, this.meant, task.kind === 'host' ? task.host.id : task.rope.id);
    const named = /^(?:the|your) /.test(strand) ? strand : `the ${strand}`;
    if (task.kind === 'host')
      return {
        along: `Draw along the middle of ${named}, from one side to the other.`,
        round: `Draw all round ${named}.`,
        press: `Press the middle of ${named}.`,
      }[task.how];
    if (task.kind === 'eye') return `Press the loop that stays, on ${named}.`;
    return task.rope.closed
      ? `Trace ${named} all round.`
      : `Trace ${named}, from where its standing part comes in to its end. Where it goes under, press the crossing.`;
  }

  private tell(): void {
    this.wrongAt = [];
    this.said.className = 'said';
    this.said.replaceChildren();
    const { task } = this;
    const count = element('span', task ? `${this.at + 1} of ${this.tasks.length}` : '', 'count');
    const text = element(
      'span',
      task ? this.sayTask(task) : 'Look once more at each ringed crossing: which strand is over?',
    );
    this.moveText.replaceChildren(count, text);
    const isRope = task?.kind === 'rope';
    this.underSwitch.hidden = !isRope;
    this.back.disabled = this.at === 0 && !this.leading.mayTakeBack;
    this.on.textContent = task ? 'Next' : 'What is it?';
    this.on.hidden = task?.kind === 'eye';
    this.on.disabled = task !== undefined && this.leading.led.points.length < (this.isPressed() ? 1 : 2);
  }

  private draw(): void {
    const traced = this.traced();
    const marks: BoardMark[] = [
      ...crossingsOf(traced).map((c, i): BoardMark => ({
        kind: 'made',
        point: c.point,
        says: `Crossing ${i + 1}${mayTurn(traced, c.second.strand) ? ': turn it over' : ''}`,
        ...(mayTurn(traced, c.second.strand) ? { does: () => this.turn(c) } : {}),
      })),
      ...this.eyes.map(({ point }): BoardMark => ({ kind: 'there', point })),
      ...this.wrongAt.map((point): BoardMark => ({ kind: 'wrong', point })),
    ];
    const end = this.leading.last;
    if (end && !this.isPressed()) marks.push({ kind: 'end', point: end });
    if (traced.ropes.length + traced.hosts.length > 0) this.empty.hidden = true;
    this.board.show({
      figure: coloured(traced),
      marks,
      label: `What is traced so far: ${crossingsOf(traced).length} crossings`,
    });
  }

  private judge(): void {
    const the = theKnot(this.name);
    const traced = this.traced();
    const crossings = crossingsOf(traced);
    const judged = judgeTrace(traced, { id: 'meant', name: this.name, figure: this.meant }, this.book);
    if (!judged.ok) {
      this.say('wrong', 'What it is could not be worked out.', [judged.reason, judged.remedy]);
      return;
    }
    const { verdict, repairs, mendedMirrored } = judged.value;
    const [first, ...others] = repairs;
    this.wrongAt = crossings.filter((c) => first?.includes(c.number)).map((c) => c.point);
    this.draw();
    if (verdict.state === 'holds') {
      this.say('right', verdict.headline, ['Dress it, draw it tight, and look at its tail.']);
      return;
    }
    const more: string[] = [];
    if (verdict.state === 'mirrored')
      more.push(`It is a knot of its own, tied with the other hand leading; ${the} of the lesson turns the other way.`);
    else if (first) {
      const at = first.length === 1 ? 'the ringed crossing' : 'the ringed crossings';
      more.push(
        `Turned over at ${at} it is ${the}${mendedMirrored ? ', of the other hand' : ''}. Is it so in your rope, or in the trace alone? Press it where the trace is wrong.`,
      );
      if (others.length > 0)
        more.push(
          `It might as well be mended at another place: there ${others.length === 1 ? 'is one more' : `are ${others.length} more`}.`,
        );
    } else {
      more.push(`No one or two crossings turned over make it ${the}: look at the way that the rope takes.`);
      const differs = verdict.marks.find((m) => !m.agrees);
      if (differs) more.push(differs.text.replace('this figure', 'yours').replace('This figure', 'Yours'));
    }
    this.say('wrong', verdict.headline, more);
  }
}
