/**
 * The composer: the text of a step, from the moves that its leader makes, in the house vocabulary.
 *
 * One sentence says up to three moves; what is made (a half hitch) is a sentence of its own; the last says where the end is then.
 */
import { capital, inflect, withArticle } from '../words/inflect.js';
import { curveOf, directionAt, pointAt } from '../figure/curve.js';
import { hostIsClosed, hostOf, lastAt, ropeOf, type Figure, type Rope } from '../figure/figure.js';
import { isHeldTaut } from '../figure/held-taut.js';
import { passagesOf } from '../figure/crossings.js';
import { subtract, type Point } from '../figure/point.js';
import { numberWord, strandWord, timesWord, uncapital, type Vocabulary } from '../words/vocabulary.js';
import { finishText } from './finish-text.js';
import type { Along, Move, Side } from './move.js';
import { movesIn } from './moves.js';
import { metIn } from './read-moves.js';
import { isHeldBight, ropeName, sayPart, type Part } from './parts.js';
import {
  isFirstEnd,
  liesIn,
  stepsOf,
  stretchesOf,
  type Again,
  type Layout,
  type Method,
  type Step,
  type Stretch,
} from './method.js';
import { movesFrom, turnedFor } from './turned.js';

export interface ComposedStep {
  readonly moves: readonly Move[];
  readonly text: string;
  /** Crossings the leader passes in this step, by number, in order. */
  readonly crossings: readonly number[];
}

/** A step's moves, and what is needed to say them. */
interface Saying {
  readonly layout: Layout;
  readonly step: Stretch;
  readonly words: Vocabulary;
}

const named = ({ layout, words }: Saying, part: Part): string => sayPart(layout.figure, part, words);

/** “behind” a host and what leads to it, “under” what lies. */
const wayOf = ({ layout }: Saying, over: boolean, part: Part): string =>
  over
    ? 'over'
    : part.kind === 'host' || (part.kind === 'standing' && layout.figure.hosts.length > 0)
      ? 'behind'
      : 'under';

/** What several parts that are gone round together are called. */
function both(saying: Saying, parts: readonly Part[]): string {
  const [a, b] = parts;
  if (!a) return '';
  if (!b) return named(saying, a);
  const { words } = saying;
  if (a.key === b.key)
    return a.kind === 'loop' || a.kind === 'bight'
      ? `both ${inflect(words.leg, 'part of a rope', 'plural')} of ${named(saying, a)}`
      : 'both parts';
  if (a.kind === 'standing' && b.kind === 'standing')
    return `both ${inflect(words.standingPart, 'part of a rope', 'plural')}`;
  const kinds = [a, b]
    .map((p) => (p.own ? p.kind : 'rope'))
    .sort()
    .join(' ');
  if (kinds === 'leg own') return 'both parts';
  if (kinds === 'rope standing') return `both ${inflect(words.rope, 'part of a rope', 'plural')}`;
  return `${named(saying, a)} and ${named(saying, b)}`;
}

const sayAlong = (along: Along, { words }: Saying): string =>
  along === 'toward' || along === 'away'
    ? `${along === 'away' ? 'away from' : 'toward'} the ${words.standingPart}`
    : `to the ${along}`;

const ACROSS: Readonly<Record<Side, string>> = {
  left: 'from left to right',
  right: 'from right to left',
  top: 'from top to bottom',
  bottom: 'from bottom to top',
};

/** How often, in words: half turns too. */
const turnsWord = (passes: number): string =>
  passes % 2 === 0
    ? timesWord(passes / 2)
    : passes === 3
      ? 'once and a half'
      : `${numberWord((passes - 1) / 2)} and a half times`;

/** What the end does in a move, after “take the end”. */
function phraseOf(saying: Saying, move: Move): string {
  const { words } = saying;
  switch (move.kind) {
    case 'loop': {
      const over = move.hand === 'overhand';
      return `${over ? 'over' : 'under'} the ${words.standingPart} to make ${withArticle(over ? words.overhandLoop : words.underhandLoop)}`;
    }
    case 'through':
      if (move.deep !== undefined) {
        const loops = inflect(words.loop, 'shape', 'plural');
        return `${move.back ? 'back ' : ''}${move.way} through ${move.deep === 2 ? 'both' : `all ${numberWord(move.deep)}`} ${loops}`;
      }
      // What hangs is gone through from a side; what lies on the table, up or down.
      if (move.what.kind === 'host' && move.times === 1)
        return `${move.back ? 'back ' : ''}through ${named(saying, move.what)} from ${move.way === 'down' ? 'in front' : 'behind'}`;
      return move.times > 1
        ? `${timesWord(move.times)} ${move.way} through ${named(saying, move.what)}, each ${words.turn} beside the last`
        : `${move.back ? 'back ' : ''}${move.way} through ${named(saying, move.what)}`;
    case 'turns': {
      const [part] = move.what;
      const what = both(saying, move.what);
      if (!part) return '';
      if (move.passes === 2 && move.what.length === 1 && move.loop === undefined) {
        const again = move.before === 'turned' ? ' again' : '';
        return move.first === 'over'
          ? `over ${what}${again} and round behind it`
          : `behind ${what}${again} and back over it`;
      }
      if (move.passes === 3 && move.what.length === 1 && move.loop === undefined)
        return move.first === 'over'
          ? `over ${what}, round behind it and over it again`
          : `round behind ${what}, over it and behind it again`;
      const loop = move.loop === undefined ? '' : ` ${move.loop === 'inside' ? 'inside' : 'outside'} the ${words.loop}`;
      const along = move.along === undefined ? '' : `, working ${sayAlong(move.along, saying)}`;
      const it = move.what.length > 1 ? 'them' : 'it';
      return `${turnsWord(move.passes)}${move.before === 'turned' ? ' more' : ''} round ${what}${loop}, first ${wayOf(saying, move.first === 'over', part)} ${it}${along}`;
    }
    case 'round':
      return `${move.over ? 'in front of' : 'round behind'} ${named(saying, move.what)}, ${ACROSS[move.from]}`;
    case 'legs': {
      const legs = inflect(words.leg, 'part of a rope', 'plural');
      if (move.ways === 'UU') return `round behind both ${legs} of ${named(saying, move.what)}`;
      if (move.ways === 'OO') return `over both ${legs} of ${named(saying, move.what)}`;
      return `${move.ways === 'OU' ? 'over' : 'under'} the near ${words.leg} of ${named(saying, move.what)} and ${move.ways === 'OU' ? 'under' : 'over'} the far one`;
    }
    case 'trap':
      return `${move.over ? 'across' : 'beneath'} ${named(saying, move.what)} but ${move.over ? 'under' : 'over'} ${named(saying, move.part)}`;
    case 'pass': {
      const way = wayOf(saying, move.over, move.what);
      if (move.times === 2 && move.what.kind === 'loop')
        return `${move.over ? 'across' : 'beneath'} ${named(saying, move.what)}`;
      const host = hostOf(saying.layout.figure, move.what.strand);
      if (host && hostIsClosed(host) && move.times === 2) return `${way} both sides of ${named(saying, move.what)}`;
      return `${way} ${named(saying, move.what)}${move.times > 1 ? ` ${timesWord(move.times)}` : ''}`;
    }
    case 'hitch':
      return `${move.turns > 1 ? `${timesWord(move.turns)} ` : ''}round ${both(saying, move.what)} and out through its own ${move.turns > 1 ? inflect(words.turn, 'shape', 'plural') : words.turn}`;
    case 'follow':
    case 'bight':
    case 'lay':
      return '';
  }
}

/** A move by itself: “round behind the standing part, from right to left”. */
export const sayMove = (layout: Layout, step: Stretch, move: Move, words: Vocabulary): string =>
  phraseOf({ layout, step, words }, move);

/** Passes of a turn that goes fully round and comes back alongside. */
const ROUND_TURN = 4;

/** How an end goes round a part and out, by what it passes. */
const HITCH_WAYS: Readonly<Record<string, string>> = {
  OUO: 'over it, round behind it, and out over',
  UOU: 'behind it, back over it, and out under',
  OUOU: 'over it, round behind, over it again, and out under',
  UOUO: 'behind it, over it, behind it again, and out over',
};

/** Whether a step lays a bight of a sling: what is left of it then goes through the bight as one. */
const isOfSling = ({ layout, step }: Saying): boolean =>
  layout.leaders[step.leader]?.kind === 'bight' && ropeOf(layout.figure, step.rope)?.closed === true;

/** A bight of a sling that comes to lie over or under its own legs: they go through it. */
const sayRestThrough = (saying: Saying): string => {
  const { words } = saying;
  return `draw the rest of the ${words.sling} through the ${words.bight}`;
};

/** A move that is said as a sentence of its own. */
function sentenceOf(saying: Saying, move: Move, end: string): string | undefined {
  const { layout, step, words } = saying;
  if (isOfSling(saying)) {
    if (move.kind === 'pass' && move.last && move.what.own) return `${capital(sayRestThrough(saying))}.`;
    const [part] = move.kind === 'hitch' && move.turns === 1 ? move.what : [];
    if (part && move.kind === 'hitch') {
      const round = move.first === 'over' ? 'over %, round behind it' : 'behind %, back over it';
      return `Take ${end} ${round.replace('%', named(saying, part))}, and ${sayRestThrough(saying)}.`;
    }
  }
  if (move.kind === 'hitch' && move.what.length === 1 && move.turns === 1 && move.what[0]) {
    const loop = move.loop === undefined ? '' : ` ${move.loop} the ${words.loop}`;
    const again =
      move.again === undefined ? '' : move.again === 'same' ? ', the same way round' : ', the other way round';
    const made = `Make ${move.another === true ? 'another' : 'a'} half hitch round ${named(saying, move.what[0])}${loop}${again}`;
    const way = HITCH_WAYS[move.ways];
    return way === undefined || (move.another === true && move.again === 'same')
      ? `${made}.`
      : `${made}: ${way} its own part.`;
  }
  if (move.kind === 'turns' && move.what[0]?.kind === 'host' && move.passes === ROUND_TURN && move.before === 'nothing')
    return `Make ${withArticle(words.roundTurn)} on ${named(saying, move.what[0])} with ${end}, first ${move.first === 'over' ? 'over' : 'behind'} it${move.along === undefined ? '' : `, working ${sayAlong(move.along, saying)}`}.`;
  if (move.kind !== 'follow') return undefined;
  const { beside } = move;
  const other =
    beside.strand.strand === step.rope
      ? `the first ${words.strand}`
      : `the ${ropeName(layout.figure, beside.strand.strand, words)}`;
  return `Follow ${other} ${beside.back ? 'back ' : ''}with ${end}, beside it all the way${beside.oneSide ? ', keeping to one side' : ''}.`;
}

/** An overhand round a part, and how: “tie an overhand of two turns round it: twice round both ropes, and out through its own turns”. */
function sayOverhand(
  saying: Saying,
  move: Extract<Move, { kind: 'hitch' }> & { readonly about: Part },
  by: string,
  isIt: boolean,
): string {
  const turns = inflect(saying.words.turn, 'shape', 'plural');
  const many = move.turns > 1 ? ` of ${numberWord(move.turns)} ${turns}` : '';
  const what = isIt ? 'it' : named(saying, move.about);
  return `tie an overhand${many} round ${what}${by}: ${phraseOf(saying, move).replace(' and out', ', and out')}.`;
}

/** Phrases one after the other: “up, round and down”. */
const chain = (phrases: readonly string[]): string =>
  phrases.length < 2
    ? (phrases[0] ?? '')
    : phrases.length === 2
      ? phrases.join(', then ')
      : `${phrases.slice(0, -1).join(', ')}, and ${phrases.at(-1) ?? ''}`;

/** Most phrases of one sentence. */
const SENTENCE = 3;

function sayMoves(saying: Saying, moves: readonly Move[], end: string): string {
  const sentences: string[] = [];
  let phrases: string[] = [];
  const close = (): void => {
    if (phrases.length > 0)
      sentences.push(
        `${sentences.length === 0 ? `${phrases[0]?.startsWith('back ') === true ? 'Bring' : 'Take'} ${end}` : 'Then take it'} ${chain(phrases)}.`,
      );
    phrases = [];
  };
  moves.forEach((move, i) => {
    if (move.kind === 'hitch' && move.about) {
      const led = phrases.length > 0;
      const before = moves[i - 1];
      const isIt = led && before?.kind === 'pass' && before.what.key === move.about.key;
      close();
      const overhand = sayOverhand(saying, { ...move, about: move.about }, led ? '' : ` with ${end}`, isIt);
      sentences.push(led ? `${(sentences.pop() ?? '').slice(0, -1)}, and ${overhand}` : capital(overhand));
      return;
    }
    const whole = sentenceOf(saying, move, end);
    if (whole !== undefined) {
      close();
      sentences.push(whole);
      return;
    }
    const tuck =
      move.kind === 'pass' && move.last && !move.over && move.times === 1 && move.what.own && i === moves.length - 1;
    const phrase = phraseOf(saying, move);
    if (tuck) {
      const led = phrases.length > 0;
      close();
      const last = sentences.pop() ?? '';
      sentences.push(
        led
          ? `${last.slice(0, -1)}, and tuck it ${phrase}.`
          : `${last === '' ? `Tuck ${end}` : `${last} Tuck it`} ${phrase}.`,
      );
      return;
    }
    phrases.push(phrase);
    if (phrases.length >= SENTENCE && moves.length - i > 2) close();
  });
  close();
  return sentences.join(' ');
}

/** A place must lie so far off, in diameters, to be to one side. */
const ASIDE = 1.2;
/** How much longer one way than across it is a way to one side. */
const PLAINLY = 1.4;

/** “to the left”: which way something goes by so much; nothing when it is none plainly. */
function sideOf([dx, dy]: Point, least: number): string | undefined {
  const [w, h] = [Math.abs(dx), Math.abs(dy)];
  if (Math.max(w, h) < least || Math.max(w, h) < PLAINLY * Math.min(w, h)) return undefined;
  if (w > h) return dx > 0 ? 'to the right' : 'to the left';
  return dy > 0 ? 'at the bottom' : 'at the top';
}

/** Where the end comes out of what it passed: “to the left”. It lies there, and points there. */
function outcome({ layout, step }: Pick<Saying, 'layout' | 'step'>, moves: readonly Move[]): string | undefined {
  const curve = curveOf(ropeOf(layout.figure, step.rope) as Rope);
  const last = moves.at(-1)?.crossings.at(-1);
  const passed = passagesOf(layout.figure, step.rope).find((p) => p.crossing.number === last && liesIn(step, p.at));
  if (!passed) return undefined;
  const side = sideOf(directionAt(curve, step.to), 0);
  const lies = sideOf(subtract(pointAt(curve, step.to), passed.crossing.point), ASIDE);
  return side === lies ? side : undefined;
}

/** The composed text of one step. */
export function composeStep(method: Method, index: number, words: Vocabulary): ComposedStep {
  const step = stepsOf(method)[index];
  if (!step) return { moves: [], text: '', crossings: [] };
  const composed = step.stretch
    ? composeAgain(step.of, step.stretch, words)
    : { moves: [], text: finishText(method, step, words), crossings: [] };
  const { passes } = step.of;
  const opens = stepsOf(method)[index - 1]?.layout !== step.layout;
  const { again } = step.telling as { readonly again?: Again | undefined };
  let { text } = composed;
  if (again) text = `As in step ${numberOf(method, step, again.of)}, ${again.way}: ${uncapital(text)}`;
  if (opens && passes !== undefined) text = `${capital(passes.replace(/[.!?]*$/, '.'))} ${text}`;
  return { ...composed, text };
}

/** Where the end is after a step, at the end of its text. */
const OUT = /,? (?:and )?out (?:to the (?:left|right)|at the (?:top|bottom))\.$/;

/** A step composed: one that does what its leader has done before says that it does so again. */
function composeAgain(layout: Layout, step: Stretch, words: Vocabulary): ComposedStep {
  const composed = composeStretch(layout, step, words);
  const said = (text: string): string => text.replace(OUT, '.');
  const own = said(composed.text);
  if (composed.crossings.length === 0 || !own.startsWith('Take ') || /\. | again\b/.test(own)) return composed;
  const isAgain = stretchesOf(layout).some(
    (s) => s.index < step.index && s.leader === step.leader && said(composeStretch(layout, s, words).text) === own,
  );
  if (!isAgain) return composed;
  const out = OUT.exec(composed.text)?.[0] ?? '.';
  return { ...composed, text: `${own.slice(0, -1)} again${out}` };
}

/** The number of a layout's step among all steps, as it is said to people. */
const numberOf = (method: Method, step: Step, index: number): number =>
  (stepsOf(method).find((s) => s.layout === step.layout)?.index ?? 0) + index + 1;

/** A stretch laid, in words: composed also where no step ends. */
export function composeStretch(layout: Layout, step: Stretch, words: Vocabulary): ComposedStep {
  const turned = turnedFor(layout, step);
  if (turned) {
    const { text, moves, crossings } = composeStretch(turned.layout, turned.step, words);
    return { text, moves: movesFrom(turned, moves), crossings: crossings.map(turned.crossing) };
  }
  const moves = movesIn(layout, step);
  const [only] = moves;
  const text =
    only && (only.kind === 'lay' || only.kind === 'bight')
      ? sayLaying(layout, step, only.kind, words)
      : sayTying(layout, step, moves, words);
  return { moves, text, crossings: moves.flatMap((m) => [...m.crossings]) };
}

/** Whether a step is the first of its leader. */
const begins = (layout: Layout, step: Stretch): boolean =>
  layout.halts.findIndex((h) => h.leader === step.leader) === step.index;

/** What moves is called: “the working end of the dark rope”. */
function endName(layout: Layout, step: Stretch, words: Vocabulary): string {
  const of = layout.figure.ropes.length > 1 ? ` of the ${ropeName(layout.figure, step.rope, words)}` : '';
  const which = whichEnd(layout, step);
  return layout.leaders[step.leader]?.kind === 'bight'
    ? `${begins(layout, step) ? withArticle(words.bight) : `the ${words.bight}`}${of}`
    : which === 'standing'
      ? `the ${words.standingPart}${of}`
      : `the ${which === undefined ? '' : `${which} `}${words.workingEnd}${of}`;
}

/** Each of two sides, and the other one. */
const OTHER_SIDE = { left: 'right', right: 'left', upper: 'lower', lower: 'upper' } as const;

/** Which of two ends that lead a rope moves: the standing part where one of them is loaded; else the one that begins later is called by where it lies then, seen from the other. */
function whichEnd(layout: Layout, step: Stretch): keyof typeof OTHER_SIDE | 'standing' | undefined {
  const ends = layout.leaders.flatMap((l, leader) => (l.kind === 'end' && l.rope === step.rope ? [leader] : []));
  const rope = ropeOf(layout.figure, step.rope);
  if (ends.length < 2 || !rope) return undefined;
  const own = rope.ends[isFirstEnd(layout.leaders[step.leader]) ? 0 : 1];
  if (rope.ends.includes('standing') && rope.ends.includes('tail')) return own === 'standing' ? own : undefined;
  const stretches = stretchesOf(layout);
  const begun = ends.map((leader) => stretches.find((s) => s.leader === leader)?.index ?? Infinity);
  const later = (begun[0] ?? 0) > (begun[1] ?? 0) ? 0 : 1;
  const earlier = ends[1 - later];
  const reached = stretches.filter((s) => s.leader === earlier && s.index < (begun[later] ?? 0)).at(-1);
  const curve = curveOf(rope);
  const from = layout.leaders[ends[later] ?? -1]?.from ?? 0;
  const [dx, dy] = subtract(pointAt(curve, from), pointAt(curve, reached?.to ?? from));
  if (Math.hypot(dx, dy) < ASIDE) return undefined;
  const side = Math.abs(dx) >= Math.abs(dy) ? (dx < 0 ? 'left' : 'right') : dy < 0 ? 'upper' : 'lower';
  return ends[later] === step.leader ? side : OTHER_SIDE[side];
}

/** A stretch that passes something. */
function sayTying(layout: Layout, step: Stretch, moves: readonly Move[], words: Vocabulary): string {
  const saying: Saying = { layout, step, words };
  const { figure } = layout;
  // A knot on the way to another is told by its name.
  const [loop, through, more] = moves;
  if (
    begins(layout, step) &&
    !more &&
    loop?.kind === 'loop' &&
    through?.kind === 'through' &&
    through.times === 1 &&
    figure.ropes.length > 1
  )
    return `Tie a loose overhand knot in the ${ropeName(figure, step.rope, words)}.`;
  const text = sayMoves(saying, moves, endName(layout, step, words));
  const side = outcome(saying, moves);
  const last = moves.at(-1);
  const said =
    isOfSling(saying) ||
    last?.kind === 'loop' ||
    last?.kind === 'follow' ||
    last?.kind === 'hitch' ||
    (last?.kind === 'turns' && last.along);
  if (side === undefined || said) return text;
  return `${text.slice(0, -1)}, ${text.includes(', and ') ? '' : 'and '}out ${side}.`;
}

/** A stretch that passes nothing: laid out, doubled back, led on. */
function sayLaying(layout: Layout, step: Stretch, kind: 'lay' | 'bight', words: Vocabulary): string {
  const several = layout.figure.ropes.length > 1;
  const name = `the ${several ? ropeName(layout.figure, step.rope, words) : words.rope}`;
  const end = endName(layout, step, words);
  const strand = ropeOf(layout.figure, step.rope) as Rope;
  const curve = curveOf(strand);
  if (layout.leaders[step.leader]?.kind === 'bight') return `Draw out ${end} as shown.`;
  const side = sideOf(subtract(pointAt(curve, step.to), pointAt(curve, step.from)), ASIDE)?.replace('at the', 'to the');
  if (kind === 'bight' && step.from === 0 && several && isHeldBight(strand))
    return `Hold the ${words.eye} of ${name} open.`;
  const along = kind === 'bight' && step.from === 0 ? metIn(layout, step)[0]?.place.strand : undefined;
  if (along !== undefined)
    return `Double ${name} back along ${strandWord(words, layout.figure, along)} to make ${withArticle(words.bight)}.`;
  if (kind === 'bight' && step.from === 0)
    return several && !loopsItself(layout.figure, step)
      ? `Double ${name} back to make ${withArticle(words.bight)}.`
      : `Turn ${end} back beside the ${words.standingPart}.`;
  if (strand.eyes?.some((at) => at > step.from && at < step.to) === true)
    return `Lead ${end} round what is to be held, and leave ${withArticle(words.eye)}.`;
  if (kind === 'bight')
    return `Bring ${end} round in ${withArticle(words.bight)}${side === undefined ? '' : `, ${side}`}.`;
  if (step.from > 0 && step.to >= lastAt(strand) - 1e-6)
    return strand.ends[1] === 'tail'
      ? `Lead ${end} away${side === undefined ? '' : ` ${side}`} and leave the ${words.tail}.`
      : `Lead the other ${words.standingPart} away${side === undefined ? '' : ` ${side}`}.`;
  if (step.from > 0) return `Bring ${end} round${side === undefined ? ' as shown' : ` ${side}`}.`;
  if (isHeldTaut(strand, layout.figure)) return `Hold ${name} ${words.taut}.`;
  return `Lay ${name} out${side === undefined ? ' as shown' : `, ${side}`}.`;
}

/** Whether the leader goes on from a step to cross its own rope. */
const loopsItself = (figure: Figure, step: Stretch): boolean =>
  passagesOf(figure, step.rope).some((p) => p.at > step.to && p.other.strand === step.rope && p.other.at < step.to);

/** The text a step shows: the author's own, or the composed one. */
export function stepText(method: Method, index: number, words: Vocabulary): string {
  return stepsOf(method)[index]?.telling.text ?? composeStep(method, index, words).text;
}
