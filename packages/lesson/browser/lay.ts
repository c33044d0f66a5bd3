/**
 * Laying a knot on the screen: the learner leads the end, a move at a time, and each is held against the lesson's (see the core's `drill/lay`). What
 * is told is which crossing is wrong, and what the knot would become of it.
 */
import {
  add,
  boxOf,
  capital,
  crossingsOf,
  finishedFigure,
  heartBox,
  madeInto,
  mistakeOf,
  numbersAcross,
  sayCrossing,
  theKnot,
  type Box,
  type Figure,
  type MistakeGroup,
  type Method,
  type Point,
  type Step,
  type KeyBook,
  type Vocabulary,
} from '@foxtrail/core';
import {
  isLastLaid,
  judgeLaid,
  laidBy,
  mayTurn,
  sayMade,
  stepsToLay,
  toLay,
  type Laid,
  type LaidVerdict,
  type Made,
  type ToLay,
} from '@foxtrail/core/drill';
import { knotOn } from './knot-on.js';
import { Leading } from './leading.js';
import { press } from './press.js';
import { RopeBoard, type BoardMark } from './rope-board.js';
import { element, number, offerConsent, type Answer } from './said.js';

/** How far a key leads the end, in diameters. */
const STRIDE = 1;
/** Room about the knot on the board, in diameters. */
const ROOM = 3.5;
/** The end may be taken hold of from so near, in diameters, however large the board is. */
const LEAST_REACH = 1.2;
/** The end is taken back so far before a crossing that is wrong, in control points of its way. */
const BEFORE = 1.2;

const KEYS: Readonly<Record<string, Point>> = {
  ArrowLeft: [-STRIDE, 0],
  ArrowRight: [STRIDE, 0],
  ArrowUp: [0, -STRIDE],
  ArrowDown: [0, STRIDE],
};

/** What is in view: every crossing of the knot, and every way that is led. */
function boxFor(method: Method, steps: readonly Step[]): Box {
  const figure = steps[0]?.of.figure ?? finishedFigure(method);
  const points = [...crossingsOf(figure).map((c) => c.point), ...steps.flatMap((s) => toLay(s)?.shown ?? [])];
  const [l, t, r, b] = boxOf(points) ?? heartBox(figure);
  return [l - ROOM, t - ROOM, r + ROOM, b + ROOM];
}

/** Lets a knot be laid on its page. */
export async function layKnot(main: HTMLElement): Promise<void> {
  const place = main.querySelector<HTMLElement>('.laying');
  if (!place) return;
  place.hidden = false;
  place.textContent = 'Fetching the knot …';
  const found = await knotOn(main, main.dataset.lay ?? '');
  if (found) new Laying(main, place, found.method, found.book).begin();
  else
    place.textContent =
      'The knot could not be fetched. Load the page again; until then lay it in rope, by the moves below.';
}

class Laying {
  private readonly steps: readonly Step[];
  private readonly name: string;
  private readonly words: Vocabulary;
  private readonly board: RopeBoard;
  private readonly texts: Map<number, Node[]>;
  private readonly send: (answers: readonly Answer[]) => void;
  private readonly said = element('div', '', 'said');
  private readonly moveText = element('div', '', 'move');
  private readonly tools = element('div', '', 'tools');
  private readonly underSwitch = press('End goes over', () => this.setUnder(!this.under));
  private readonly back = press('Take back', () => this.takeBack());
  private readonly check = press('Check the move', () => this.judge());
  private readonly showWay = press('Show me', () => this.reveal());
  /** Whoever lays by heart hides what the move is. */
  private readonly byHeart = element('button', '', 'by-heart');
  private hidesWords = false;

  private at = 0;
  private asked: ToLay | undefined;
  private leading = new Leading();
  private laid: Laid | undefined;
  private under = false;
  private ghost = false;
  private wrongAt: readonly Point[] = [];
  private thereAt: readonly Point[] = [];
  /** Moves that were right when they were first looked at, and all that were looked at. */
  private first = { right: 0, of: 0 };
  private tried = new Set<number>();
  private numbers: ReadonlyMap<number, number> | undefined;

  constructor(
    private readonly main: HTMLElement,
    place: HTMLElement,
    private readonly method: Method,
    private readonly book: KeyBook,
  ) {
    this.steps = stepsToLay(method);
    this.name = main.dataset.name ?? '';
    this.words = JSON.parse(main.dataset.words ?? '{}') as Vocabulary;
    this.texts = new Map(
      [...main.querySelectorAll<HTMLElement>('.moves > li')].map((li) => [
        number(li.dataset.step),
        [...li.childNodes].map((n) => n.cloneNode(true)),
      ]),
    );
    this.board = new RopeBoard(boxFor(method, this.steps), {
      grab: (at, reach) =>
        this.asked !== undefined && this.leading.isAtEnd(at, Math.max(reach, LEAST_REACH), this.asked.at),
      lead: (way, isDone) => this.lead(way, isDone),
    });
    this.board.element.tabIndex = 0;
    this.board.element.setAttribute('role', 'application');
    this.board.element.setAttribute(
      'aria-label',
      'Board: arrow keys lead the end, U lets it go under, X turns the last crossing over, Backspace takes back, Enter looks at the move',
    );
    this.board.element.addEventListener('keydown', (event) => this.key(event));
    this.said.setAttribute('role', 'status');
    this.underSwitch.classList.add('under');
    this.check.classList.add('onward');
    this.tools.append(this.underSwitch, this.back, this.showWay, this.check);
    const beside = element('div', '', 'beside');
    beside.append(this.moveText, this.said, this.tools, this.byHeart);
    this.byHeart.type = 'button';
    this.byHeart.addEventListener('click', () => {
      this.hidesWords = !this.hidesWords;
      this.sayWords();
    });
    this.sayWords();
    place.replaceChildren(this.board.element, beside);
    main.classList.add('by-hand');
    this.send = offerConsent(main, {
      slug: main.dataset.lay ?? '',
      revision: number(main.dataset.revision),
      forget: () => this.begin(),
    });
  }

  begin(): void {
    this.first = { right: 0, of: 0 };
    this.tried = new Set();
    this.go(0);
  }

  private get step(): Step | undefined {
    return this.steps[this.at];
  }

  private go(to: number): void {
    this.at = to;
    this.asked = this.step ? toLay(this.step) : undefined;
    this.startAnew();
    if (!this.step) this.finish();
  }

  private startAnew(): void {
    this.leading = new Leading();
    this.ghost = false;
    this.setUnder(false);
    this.tell();
    this.draw();
  }

  private lead(way: readonly Point[], isDone: boolean): void {
    this.leading.lead(way, this.under, isDone, this.asked?.at);
    if (isDone) this.tell();
    else this.forget();
    this.draw();
  }

  private key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey || !this.asked) return;
    const by = KEYS[event.key];
    const last = this.laid?.made.at(-1);
    if (by) {
      const end = this.leading.last ?? this.asked.at;
      this.lead([end, add(end, by)], true);
    } else if (event.key.toLowerCase() === 'u') this.setUnder(!this.under);
    else if (event.key.toLowerCase() === 'x' && last && mayTurn(this.asked.figure, last.strand)) this.turn(last.at);
    else if (event.key === 'Backspace') this.takeBack();
    else if (event.key === 'Enter') this.judge();
    else return;
    event.preventDefault();
  }

  private setUnder(to: boolean): void {
    this.under = to;
    this.underSwitch.textContent = to ? 'End goes under' : 'End goes over';
    this.underSwitch.setAttribute('aria-pressed', String(to));
    this.underSwitch.title = 'What the end does where it crosses something next';
  }

  private turn(at: number): void {
    this.leading.turn(at);
    this.tell();
    this.draw();
  }

  private takeBack(): void {
    this.leading.takeBack();
    this.tell();
    this.draw();
  }

  private cutTo(count: number): void {
    this.leading.cutTo(count);
    this.tell();
    this.draw();
  }

  /** Takes away what was said of the move as it was. */
  private forget(): void {
    this.wrongAt = [];
    this.thereAt = [];
    this.said.replaceChildren();
    this.said.className = 'said';
  }

  /** Says which move it is, and what it is. */
  private tell(): void {
    this.forget();
    const step = this.step;
    if (!step) return;
    const text = element('p', '', 'say');
    const count = element('span', String(this.at + 1), 'count');
    const what = element('span');
    what.append(...(this.texts.get(step.index) ?? []).map((n) => n.cloneNode(true)));
    text.append(count, what);
    this.moveText.replaceChildren(text);
    this.tools.hidden = false;
    const isLed = this.asked !== undefined;
    for (const tool of [this.underSwitch, this.back, this.showWay]) tool.hidden = !isLed;
    this.check.textContent = isLed ? 'Check the move' : 'Next';
    if (!isLed) this.said.append(element('p', 'This move is shown: it is none of an end that is led.', 'soft'));
    this.back.disabled = !this.leading.mayTakeBack;
    this.sayWay();
  }

  private draw(): void {
    const { asked, step } = this;
    if (!asked || !step) {
      const done = step ?? this.steps.at(-1);
      if (!done) return;
      this.board.show({ figure: shownAfter(this.steps, this.at), marks: [], label: 'The knot as it lies so far' });
      return;
    }
    this.laid = laidBy(asked, this.leading.led);
    const { figure } = this.laid ?? asked;
    const count = this.leading.led.points.length;
    const rope = asked.figure.ropes.find((r) => r.id === asked.rope);
    const laidBefore = (rope?.points.length ?? 1) - 1;
    const working =
      count === 0
        ? undefined
        : asked.way === 1
          ? { strand: asked.rope, from: laidBefore }
          : { strand: asked.rope, from: 0, to: count };
    const made = this.laid?.made ?? [];
    const marks: BoardMark[] = [
      ...made.map((m, i): BoardMark => ({
        kind: 'made',
        point: m.point,
        says: `Crossing ${i + 1}: the end lies ${m.over ? 'over' : 'under'}.${mayTurn(asked.figure, m.strand) ? ' Turn it over.' : ''}`,
        ...(mayTurn(asked.figure, m.strand) ? { does: () => this.turn(m.at) } : {}),
      })),
      ...this.wrongAt.map((point): BoardMark => ({ kind: 'wrong', point })),
      ...this.thereAt.map((point): BoardMark => ({ kind: 'there', point })),
      { kind: 'end', point: this.leading.last ?? asked.at },
    ];
    this.board.show({
      // A rope of which nothing lies yet is but its end.
      figure: this.laid ? figure : { ...figure, ropes: figure.ropes.filter((r) => r.points.length > 1) },
      draw: working ? { working } : {},
      marks,
      ghost: this.ghost ? asked.shown : undefined,
      label: `The knot as it lies so far; the end makes ${made.length} crossings in this move`,
    });
  }

  private sayWords(): void {
    this.moveText.classList.toggle('hidden-words', this.hidesWords);
    this.byHeart.textContent = this.hidesWords ? 'Show the words' : 'By heart: hide the words';
    this.byHeart.setAttribute('aria-pressed', String(this.hidesWords));
  }

  private sayWay(): void {
    this.showWay.textContent = this.ghost ? 'Hide it' : 'Show me';
  }

  private reveal(): void {
    if (this.asked && this.step && !this.tried.has(this.step.index)) {
      // Who is shown the way has not found it.
      this.tried.add(this.step.index);
      this.first.of += 1;
    }
    this.ghost = !this.ghost;
    this.sayWay();
    this.draw();
  }

  private judge(): void {
    const { asked, step } = this;
    if (!step) return;
    if (!asked) {
      this.go(this.at + 1);
      return;
    }
    if (this.leading.led.points.length === 0) {
      this.say('', 'Take hold of the end, and lead it on.');
      return;
    }
    const laid = laidBy(asked, this.leading.led);
    if (!laid) return;
    const verdict = judgeLaid(asked, laid);
    // Once all is laid, another way may come to the same knot.
    const comes =
      verdict.state === 'elsewhere' && isLastLaid(this.method, step)
        ? madeInto(this.whole(), laid.figure, this.book)
        : undefined;
    if (comes?.ok === true && comes.value.outcome === 'same') {
      this.count(step, { state: 'right' }, []);
      this.go(this.at + 1);
      this.said.prepend(element('b', 'Another way than the lesson’s, and it comes to the same knot.'));
      this.said.classList.add('right');
      return;
    }
    this.count(step, verdict, asked.asked);
    this.told(verdict, asked, comes);
    this.draw();
  }

  /** Counts how a move was laid when it was first looked at, and at each crossing of the lesson's that it made. */
  private count(step: Step, { state, ...rest }: LaidVerdict, crossed: readonly Made[]): void {
    if (state === 'short' || this.tried.has(step.index)) return;
    this.tried.add(step.index);
    this.first.of += 1;
    if (state === 'right') this.first.right += 1;
    const wrong = new Set('crossings' in rest ? rest.crossings : []);
    const crossings =
      state === 'right' || state === 'wrong'
        ? crossed.flatMap(({ number: n }): Answer[] => {
            const finished = this.finished().get(n);
            return finished === undefined ? [] : [{ question: `lay:crossing-${finished}`, right: !wrong.has(n) }];
          })
        : [];
    this.send([{ question: `lay:move-${step.index + 1}`, right: state === 'right' }, ...crossings]);
  }

  private say(kind: string, head: string, more: readonly string[] = [], offers: readonly HTMLElement[] = []): void {
    this.said.className = `said ${kind}`;
    this.said.replaceChildren(element('b', head), ...more.map((text) => element('p', text)), ...offers);
  }

  private told(verdict: LaidVerdict, asked: ToLay, comes: ReturnType<typeof madeInto> | undefined): void {
    const the = theKnot(this.name);
    this.forget();
    switch (verdict.state) {
      case 'right': {
        this.go(this.at + 1);
        if (this.step) this.say('right', 'Right. Now the next move.');
        return;
      }
      case 'short': {
        const left = asked.asked.length - verdict.made;
        this.say('', `So far it is right; ${left === 1 ? 'one crossing is' : `${left} crossings are`} still to come.`);
        return;
      }
      case 'wrong': {
        this.wrongAt = verdict.points;
        const one = verdict.crossings.length === 1;
        const [number_ = 0] = verdict.crossings;
        const whole = this.whole();
        const rule = one ? [`${capital(sayCrossing(whole, number_, this.words))} there, in ${the}.`] : [];
        this.say(
          'wrong',
          one ? 'It lies the wrong way at the ringed crossing.' : 'It lies the wrong way at the ringed crossings.',
          [
            ...rule,
            sayBecomes(mistakeOf(whole, verdict.crossings, this.book), the),
            verdict.strands.every((strand) => mayTurn(asked.figure, strand))
              ? 'Press it to turn it over.'
              : 'Take it back, and lead it past the post on the other side.',
          ],
        );
        return;
      }
      case 'mirrored':
        this.say('wrong', 'It is the mirror image of the move.', [
          'The end goes round the other way about. Take it back, and lead it to the other side.',
        ]);
        return;
      case 'elsewhere': {
        this.wrongAt = [verdict.went.point];
        const { should } = verdict;
        // Where it should go is shown where something lies already that it crosses there.
        if (should && should.strand !== asked.rope) this.thereAt = [should.point];
        const taken = press('Take it back to there', () => this.cutTo(Math.floor(verdict.went.at - BEFORE)));
        this.say(
          'wrong',
          should
            ? 'At the plum ring it goes elsewhere than the lesson’s.'
            : 'At the plum ring it crosses something once more than in the lesson.',
          [
            ...(should ? [`Next, in ${the}, ${sayCrossing(this.whole(), should.number, this.words)}.`] : []),
            ...(this.thereAt.length > 0 ? ['That is at the green ring.'] : []),
            ...(comes ? [sayBecomes(comes, the)] : []),
          ],
          [taken],
        );
      }
    }
  }

  /** Numbers that crossings have in the finished knot, by those that they have as it is laid: answers are counted by them. */
  private finished(): ReadonlyMap<number, number> {
    this.numbers ??= numbersAcross(this.whole(), finishedFigure(this.method)) ?? new Map();
    return this.numbers;
  }

  private whole(): Figure {
    return this.steps[0]?.of.figure ?? finishedFigure(this.method);
  }

  private summary(): string[] {
    const { right, of } = this.first;
    return [of === 1 ? '' : `${right} of ${of} moves right when they were first looked at.`].filter((t) => t !== '');
  }

  private finish(): void {
    this.moveText.replaceChildren();
    this.tools.hidden = true;
    const lesson = element('a', 'The lesson');
    lesson.href = this.main.querySelector<HTMLAnchorElement>('header a')?.href ?? '/learn';
    this.say(
      'right',
      `You have laid ${theKnot(this.name)}.`,
      [...this.summary(), 'Now in rope: dress it, draw it tight, look at its tail.'],
      [press('Lay it again', () => this.begin()), lesson],
    );
  }
}

/** The knot when a step that is shown is done; past the last step, all of it. */
function shownAfter(steps: readonly Step[], at: number): Figure | undefined {
  const next = steps.slice(at + 1).flatMap((s) => toLay(s) ?? [])[0];
  return next?.figure ?? steps.at(-1)?.of.figure;
}

function sayBecomes(made: ReturnType<typeof mistakeOf> | ReturnType<typeof madeInto>, the: string): string {
  if (!made.ok) return 'What it would become is not worked out.';
  const { outcome }: Pick<MistakeGroup, 'outcome'> = made.value;
  return outcome === 'same' ? `So laid it is still ${the}, but not as the lesson has it.` : sayMade(made.value);
}
