/**
 * What a learner practises on: pictures of a knot as it is and as it goes wrong, each with what is asked of it and what is so. All of it comes
 * out of the figure: its mistake atlas, its mirror image, its other side, and the knots it is mistaken for.
 */
import { sayCrossing } from '../dressing/inspection.js';
import { heartBox } from '../drawing/drawing.js';
import { figureInView } from '../drawing/steps.js';
import { crossingsOf, passagesOf } from '../figure/crossings.js';
import type { Figure } from '../figure/figure.js';
import type { Box, Point } from '../figure/point.js';
import { accept, type Result } from '../figure/refusal.js';
import { atlasOf, sayOutcome, type Mistake } from '../identity/atlas.js';
import type { KeyBook } from '../identity/book.js';
import { flipped, signatureOf } from '../identity/signature.js';
import { mirror } from '../topology/views.js';
import { strandWord, theKnot, type Vocabulary } from '../words/vocabulary.js';

/** Is it the knot, and where is the slip; which of several is it; which hand; which side. */
export const QUESTION_KINDS = ['judge', 'which', 'hand', 'side'] as const;
export type QuestionKind = (typeof QUESTION_KINDS)[number];

/** A knot of the book as it lies in the hand, from the side on which it is tied or from behind. */
export interface SetPicture {
  readonly pattern: string;
  readonly side: 'front' | 'back';
  readonly says: string;
}
/** This knot laid wrong at a crossing, as it lies in the hand. */
export interface SlipPicture {
  readonly slip: number;
  readonly says: string;
}
/** A figure as it is drawn. */
export interface OpenPicture {
  readonly figure: Figure;
  readonly box: Box;
  /** The same for who does not see it: how each rope runs. */
  readonly says: string;
}
export type DrillPicture = OpenPicture | SetPicture | SlipPicture;

export interface DrillQuestion {
  /** The same in every edition that is drawn alike: `judge:slip-3`. */
  readonly id: string;
  readonly kind: QuestionKind;
  readonly asks: string;
  readonly pictures: readonly DrillPicture[];
  /** From what is told at a glance to what wants a close look. */
  readonly level: 1 | 2 | 3;
  /** What may be answered; with several pictures one for each of them. */
  readonly options: readonly string[];
  /** Which of them is right. */
  readonly right: number;
  /** What is so, once it is answered. */
  readonly tells: string;
  /** The crossings of a drawing that is judged, in their order, and the number of that which is laid the wrong way, where one is. */
  readonly where?: { readonly points: readonly Point[]; readonly slip?: number };
}

/** A knot that is taken for this one. */
export interface Lookalike {
  readonly pattern: string;
  readonly name: string;
  /** How it differs, where somebody has said so. */
  readonly because?: string | undefined;
  readonly figure: Figure;
  /** It can be shown as it lies in the hand. */
  readonly set: boolean;
}

export interface DrillOf {
  readonly name: string;
  /** The finished knot. */
  readonly figure: Figure;
  readonly words: Vocabulary;
  readonly book: KeyBook;
  readonly lookalikes?: readonly Lookalike[];
  /** The pattern as which it is shown in the hand, where it is one, of the same hand. */
  readonly asSet?: string | undefined;
  /** Slips that can be shown as they lie in the hand, by the number of their crossing. */
  readonly slipsInHand?: readonly number[] | undefined;
  /** The author's own words on a slip, by the number of its crossing. */
  readonly tellOf?: (crossing: number) => string | undefined;
}

/** A figure of more crossings than this is not asked about: its slips cannot be told apart at a glance. */
export const MOST_CROSSINGS = 24;
/** Fewer than these are no knot to practise on. */
const LEAST_CROSSINGS = 3;
/** Pictures that are compared at once, and how many such questions there are. */
const COMPARED = 4;
const MOST_WHICH = 3;
/** Slips that are among the easy questions. */
const FIRST_SLIPS = 3;

/** Whether there is something to ask of a figure. */
export function mayBeAsked(figure: Figure): boolean {
  const count = crossingsOf(figure).length;
  return count >= LEAST_CROSSINGS && count <= MOST_CROSSINGS;
}

/** How each rope of a figure runs: over and under, by the numbers of the crossings. */
export function sayRuns(figure: Figure, words: Vocabulary): string {
  return figure.ropes
    .map(({ id }) => {
      const run = passagesOf(figure, id).map((p) => `${p.over ? 'over' : 'under'} at ${p.crossing.number}`);
      const rope = figure.ropes.length > 1 ? `The ${strandWord(words, figure, id)}` : 'The rope';
      return run.length === 0 ? `${rope} crosses nothing.` : `${rope} goes ${run.join(', ')}.`;
    })
    .join(' ');
}

const open = (figure: Figure, words: Vocabulary): OpenPicture => ({
  figure,
  box: heartBox(figure),
  says: sayRuns(figure, words),
});

/** Spread evenly, the same every time: where the right one lies among so many, by what a question is called. */
const placeFor = (id: string, among: number): number =>
  Array.from(id, (c) => c.charCodeAt(0)).reduce((sum, code) => (31 * sum + code) % 65_537, 7) % among;

/** Everything that may be asked of a knot; nothing of what is too small or too wide to be asked about. */
export function questionsOf(of: DrillOf): Result<readonly DrillQuestion[]> {
  const { figure, words, name } = of;
  if (!mayBeAsked(figure)) return accept([]);
  const atlas = atlasOf(figure, of.book);
  if (!atlas.ok) return atlas;
  const slips = atlas.value.mistakes.filter((m) => m.outcome !== 'same');
  // That it falls apart is seen sooner than that it is another knot; some slips there are among the first questions anyhow.
  const falls = slips.filter((m) => m.outcome === 'falls apart');
  const easy = falls.length > 0 ? falls.slice(0, FIRST_SLIPS) : slips.slice(0, FIRST_SLIPS);
  const [front, back] = [open(figure, words), open(figureInView(figure, 'back'), words)];
  const the = theKnot(name);
  return accept([
    ...judgeRight(of, front, back),
    ...slips.map((m) => judgeSlip(of, m, easy.includes(m) ? 1 : 2)),
    ...slips.filter((m) => of.slipsInHand?.includes(m.crossing)).map((m) => judgeInHand(of, m)),
    ...(of.lookalikes ?? []).map((l) => judgeLike(of, l)),
    ...whichQuestions(of, front, slips),
    ...handQuestions(of, front),
    ...([front, back] as const).map((picture, i): DrillQuestion => ({
      id: `side:${i === 0 ? 'front' : 'back'}`,
      kind: 'side',
      level: 3,
      asks: `From which side is ${the} seen?`,
      pictures: [picture],
      options: ['From the side it is tied on', 'From behind'],
      right: i,
      tells:
        i === 0
          ? 'It is seen as the lesson ties it.'
          : 'It is seen from behind: left and right are exchanged, and so is what lies over with what lies under.',
    })),
  ]);
}

const YES_NO = ['It is right', 'Something is wrong'] as const;
const [RIGHT, WRONG] = [0, 1] as const;

const judge = (
  { name }: DrillOf,
  id: string,
  picture: DrillPicture,
  right: 0 | 1,
  level: DrillQuestion['level'],
  tells: string,
  slip?: number,
): DrillQuestion => ({
  id: `judge:${id}`,
  kind: 'judge',
  asks: `Is this ${theKnot(name)}, rightly tied?`,
  pictures: [picture],
  level,
  options: YES_NO,
  right,
  tells,
  // Whether it is right or not, a drawing has as much room about it, and may be asked where it is wrong.
  ...('figure' in picture
    ? { where: { points: crossingsOf(picture.figure).map((c) => c.point), ...(slip === undefined ? {} : { slip }) } }
    : {}),
});

/** A knot in the hand. Whichever it is, the same is said of it: that it is right, or is not, cannot be told in words. */
const sayInHand = (side: SetPicture['side']): string =>
  `A knot as it lies in the hand, ${side === 'front' ? 'seen from the side it is tied on' : 'seen from behind'}: this one is for the eye.`;

const inHand = (pattern: string, side: SetPicture['side']): SetPicture => ({ pattern, side, says: sayInHand(side) });

function judgeRight(of: DrillOf, front: OpenPicture, back: OpenPicture): DrillQuestion[] {
  const the = theKnot(of.name);
  return [
    judge(of, 'front', front, RIGHT, 1, `It is ${the}, as the lesson ties it.`),
    judge(of, 'back', back, RIGHT, 2, `It is ${the}, seen from behind.`),
    ...(of.asSet === undefined
      ? []
      : (['front', 'back'] as const).map((side) =>
          judge(
            of,
            `set-${side}`,
            inHand(of.asSet!, side),
            RIGHT,
            2,
            `It is ${the}, dressed and set${side === 'back' ? ', seen from behind' : ''}.`,
          ),
        )),
  ];
}

/** What a slip makes of the knot, said. */
export function sayMade(mistake: Pick<Mistake, 'outcome' | 'becomes'>): string {
  switch (mistake.outcome) {
    case 'falls apart':
      return 'So laid it falls apart.';
    case 'mirror':
      return 'So laid it is its mirror image.';
    case 'another knot': {
      const [only, ...more] = mistake.becomes;
      return only && more.length === 0 && only.relation !== 'mirror'
        ? `So laid it is ${theKnot(only.name)}.`
        : `So laid it is another knot: ${sayOutcome(mistake)}.`;
    }
    default:
      return 'So laid it is another knot.';
  }
}

function judgeSlip(of: DrillOf, mistake: Mistake, level: DrillQuestion['level']): DrillQuestion {
  const wrong = flipped(of.figure, [mistake.crossing]);
  const { crossing } = mistake;
  return judge(of, `slip-${crossing}`, open(wrong, of.words), WRONG, level, tellSlip(of, mistake), crossing);
}

/** What is wrong at a slip, and what comes of it. */
function tellSlip({ figure, words, name, tellOf }: DrillOf, mistake: Mistake): string {
  const { crossing } = mistake;
  const laid = sayCrossing(flipped(figure, [crossing]), crossing, words);
  return `${tellOf?.(crossing) ?? `There ${laid}; in ${theKnot(name)} it lies under.`} ${sayMade(mistake)}`;
}

/** A slip that was dressed and set before anybody looked at it. */
function judgeInHand(of: DrillOf, mistake: Mistake): DrillQuestion {
  const { crossing } = mistake;
  const told = `It was laid wrong at crossing ${crossing} of the drawing. ${tellSlip(of, mistake)}`;
  return judge(of, `hand-slip-${crossing}`, { slip: crossing, says: sayInHand('front') }, WRONG, 3, told);
}

function judgeLike(of: DrillOf, like: Lookalike): DrillQuestion {
  const picture = like.set ? inHand(like.pattern, 'front') : open(like.figure, of.words);
  return judge(
    of,
    `like-${like.pattern}`,
    picture,
    WRONG,
    3,
    `It is ${theKnot(like.name)}, which is taken for ${theKnot(of.name)}.${like.because === undefined ? '' : ` ${like.because}`}`,
  );
}

/** Questions in which the knot is found among what slips make of it. */
function whichQuestions(of: DrillOf, front: OpenPicture, slips: readonly Mistake[]): DrillQuestion[] {
  const out: DrillQuestion[] = [];
  const others = COMPARED - 1;
  for (let k = 0; k < MOST_WHICH && (k + 1) * others <= slips.length; k += 1) {
    const id = `which:${k + 1}`;
    // Taken in strides, so that slips of one question lie apart from one another.
    const wrong = Array.from(
      { length: others },
      (_, i) => slips[(k + i * Math.floor(slips.length / others)) % slips.length]!,
    );
    const right = placeFor(`${of.name} ${id}`, COMPARED);
    const pictures: OpenPicture[] = wrong.map((m) => open(flipped(of.figure, [m.crossing]), of.words));
    pictures.splice(right, 0, front);
    out.push({
      id,
      kind: 'which',
      level: 1,
      asks: `Which of these is ${theKnot(of.name)}?`,
      pictures,
      options: pictures.map((_, i) => `Picture ${i + 1}`),
      right,
      tells: `Picture ${right + 1} is. ${wrong
        .map((m, i) => {
          const laid = sayCrossing(flipped(of.figure, [m.crossing]), m.crossing, of.words);
          return `In picture ${(i < right ? i : i + 1) + 1} ${laid}, where it must lie under.`;
        })
        .join(' ')}`,
    });
  }
  return out;
}

/** Which hand it is tied for, of a knot that is not its own mirror image. */
function handQuestions({ figure, words, name }: DrillOf, front: OpenPicture): DrillQuestion[] {
  const turned = mirror(figure);
  const [own, other] = [signatureOf(figure), signatureOf(turned)];
  if (!own.ok || !other.ok || own.value.key === other.value.key) return [];
  const the = theKnot(name);
  return [front, open(turned, words)].map((picture, i) => ({
    id: `hand:${i === 0 ? 'own' : 'other'}`,
    kind: 'hand' as const,
    level: 3 as const,
    asks: `Is this ${the} as the lesson ties it, or its mirror image?`,
    pictures: [picture],
    options: ['As the lesson ties it', 'Its mirror image'],
    right: i,
    tells:
      i === 0
        ? 'It is tied as in the lesson.'
        : 'It is the mirror image: a knot of its own, tied with the other hand leading.',
  }));
}
