/**
 * The truth of footage: whether the marks on frames of a film agree with the figure, from which side it is seen, and whether it is
 * mirrored.
 *
 * A film shows a figure in one of four ways, by two exchanges: left and right, and over and under. Seen from behind both are exchanged; in
 * a mirror left and right are, while over stays over. Over and under are told by each mark. Left and right are told by the way in which a
 * crossing's two strands cross (the sense of their directions, which no bending of the rope changes), or, where no directions are marked,
 * by the sense in which three crossings lie about one another (which holds while the rope lies as it is drawn).
 */
import { crossingsOf, type Crossing } from '../figure/crossings.js';
import type { Figure } from '../figure/figure.js';
import { cross, distance, subtract, type Point } from '../figure/point.js';
import { LEAST_MARKS, type SeenCrossing } from './frame.js';

/** How a film shows a figure. */
export interface FilmView {
  readonly side: 'tying side' | 'behind';
  readonly mirrored: boolean;
}

/** A mark by the number of its crossing. */
export interface NumberedMark extends SeenCrossing {
  readonly crossing: number;
}

export interface MarkedFrame {
  readonly at: number;
  readonly marks: readonly NumberedMark[];
}

/** What a frame says. */
export interface FrameVerdict {
  readonly at: number;
  /** Its marks agree with the figure seen in one way; in more than one; in none. */
  readonly state: 'agrees' | 'undecided' | 'differs';
  /** The ways in which all its marks agree; where there are none, those in which the fewest do not. */
  readonly views: readonly FilmView[];
  /** Crossings that are the other way, for each of the views. */
  readonly wrong: readonly (readonly number[])[];
  /** Crossings whose strands run across each other the other way than at the rest. */
  readonly runsOtherwise: readonly number[];
}

const VIEWS: readonly FilmView[] = [
  { side: 'tying side', mirrored: false },
  { side: 'behind', mirrored: false },
  { side: 'tying side', mirrored: true },
  { side: 'behind', mirrored: true },
];

type Sense = 1 | -1;

/** Whether left and right, and over and under, are as in the figure (1) or exchanged (−1). */
const leftRightOf = ({ side, mirrored }: FilmView): Sense => ((side === 'behind') === mirrored ? 1 : -1);
const overUnderOf = ({ side }: FilmView): Sense => (side === 'behind' ? -1 : 1);

/** Strands that cross at a smaller angle than this, in a frame or in the figure, do not say which way: its sine. */
const LEAST_CROSSING = Math.sin((12 * Math.PI) / 180);
/** Three places flatter than this do not say which way they lie: their area, against the square of their longest side. */
const LEAST_TRIPLE = 0.06;
/** The share of triples, by area, that must concur. */
const MOST_CONCUR = 0.85;

/** The sense of two directions as seen; none when they are nearly one. */
function senseOf(u: Point, v: Point): Sense | undefined {
  const size = Math.hypot(u[0], u[1]) * Math.hypot(v[0], v[1]);
  const c = cross(u, v);
  return size === 0 || Math.abs(c) < LEAST_CROSSING * size ? undefined : c > 0 ? -1 : 1;
}

/** What a mark's directions say of left and right. */
function leftRightBy({ point, first, second }: SeenCrossing, { turn }: Crossing): Sense | undefined {
  if (!point || !first || !second) return undefined;
  const sense = senseOf(subtract(first, point), subtract(second, point));
  return sense && (sense === turn ? 1 : -1);
}

interface Placed {
  readonly mark: NumberedMark;
  readonly crossing: Crossing;
}

/** What three places at a time say of left and right; nothing where they do not concur. */
function leftRightByPlaces(placed: readonly Placed[]): Sense | undefined {
  const flat = (a: Point, b: Point, c: Point): number => {
    const longest = Math.max(distance(a, b), distance(b, c), distance(c, a));
    return longest === 0 ? 0 : cross(subtract(b, a), subtract(c, a)) / (longest * longest);
  };
  let [same, exchanged] = [0, 0];
  const own = placed.filter((p) => p.mark.point);
  for (const [i, a] of own.entries())
    for (const [j, b] of own.slice(i + 1).entries())
      for (const c of own.slice(i + j + 2)) {
        const drawn = flat(a.crossing.point, b.crossing.point, c.crossing.point);
        const seen = flat(a.mark.point as Point, b.mark.point as Point, c.mark.point as Point);
        if (Math.min(Math.abs(drawn), Math.abs(seen)) < LEAST_TRIPLE) continue;
        const weight = Math.abs(drawn) * Math.abs(seen);
        if (drawn > 0 === seen > 0) same += weight;
        else exchanged += weight;
      }
  const all = same + exchanged;
  if (all === 0) return undefined;
  return same >= MOST_CONCUR * all ? 1 : exchanged >= MOST_CONCUR * all ? -1 : undefined;
}

/** What a frame's marks say of the figure. Marks of crossings that the figure does not have are left out. */
export function judgeFrame(figure: Figure, { at, marks }: MarkedFrame): FrameVerdict {
  const crossings = crossingsOf(figure);
  const placed = marks.flatMap((mark): Placed[] => {
    const crossing = crossings[mark.crossing - 1];
    return crossing ? [{ mark, crossing }] : [];
  });
  const directed = placed.flatMap(({ mark, crossing }) => {
    const sense = leftRightBy(mark, crossing);
    return sense ? [{ number: crossing.number, sense }] : [];
  });
  const sum = directed.reduce((n, d) => n + d.sense, 0);
  const leftRight = directed.length > 0 ? (Math.sign(sum) as Sense | 0) || undefined : leftRightByPlaces(placed);
  const runsOtherwise = directed.filter((d) => leftRight && d.sense !== leftRight).map((d) => d.number);
  const views = VIEWS.filter((v) => !leftRight || leftRightOf(v) === leftRight);
  const wrongIn = (view: FilmView): number[] =>
    placed
      .filter(
        ({ mark, crossing }) =>
          ((mark.over === 'first') === (crossing.over === crossing.first)) !== overUnderOf(view) > 0,
      )
      .map((p) => p.crossing.number);
  const held = views.map((view) => ({ view, wrong: wrongIn(view) }));
  const least = Math.min(...held.map((h) => h.wrong.length));
  const best = held.filter((h) => h.wrong.length === least);
  const torn = directed.length > 0 && (leftRight === undefined || runsOtherwise.length > 0);
  return {
    at,
    state: least > 0 || torn ? 'differs' : best.length === 1 ? 'agrees' : 'undecided',
    views: best.map((b) => b.view),
    wrong: best.map((b) => b.wrong),
    runsOtherwise: leftRight === undefined && torn ? directed.map((d) => d.number) : runsOtherwise,
  };
}

/** Crossings that are the other way in frames that say so without doubt. */
export const wrongIn = ({ frames }: Pick<FootageVerdict, 'frames'>): number[] => [
  ...new Set(frames.flatMap((f) => (f.state === 'differs' && f.wrong.length === 1 ? (f.wrong[0] ?? []) : []))),
];

/** A crossing that no frame has a mark of, and that may make something else of the knot when it is the other way. */
export interface OpenCrossing {
  readonly crossing: number;
  /** What it makes of it by itself; nothing where only others with it do, or where it is not worked out. */
  readonly becomes?: string | undefined;
}

/** What a film says of the finished figure. */
export interface FootageVerdict {
  /**
   * Agrees: it shows the knot. Mirrored: it shows its mirror image. Differs: a crossing is the other way. Undecided: nothing that is
   * marked says otherwise, but what is not marked may.
   */
  readonly state: 'agrees' | 'mirrored' | 'differs' | 'undecided';
  readonly frames: readonly FrameVerdict[];
  /** From where it is seen, and whether in a mirror, where all frames that tell say one thing. */
  readonly view?: FilmView | undefined;
  /** What the crossings that are the other way make of the knot. */
  readonly becomes?: string | undefined;
  readonly open: readonly OpenCrossing[];
  /** What is to be marked next; nothing where all is said. */
  readonly next?: NextMark | undefined;
}

/** A mark that would decide. */
export type NextMark =
  /** More crossings, whichever. */
  | { readonly kind: 'more'; readonly count: number }
  /** The directions of both strands, at one crossing. */
  | { readonly kind: 'directions' }
  /** One crossing. */
  | { readonly kind: 'crossing'; readonly crossing: number; readonly becomes?: string | undefined };

/** What a figure becomes when crossings are laid the other way: the same knot, or what is told of it. */
export type Otherwise = (crossings: readonly number[]) => 'same' | Becomes;
export interface Becomes {
  readonly becomes: string;
  /** It is a knot that has a name, and may pass for this one. */
  readonly named: boolean;
}

/** With more crossings than this left without a mark it is not worked out what each would make: all are open. */
const MOST_APART = 16;
/** With more than this, each harmless by itself, it is not worked out what they make together: all are open. */
const MOST_TOGETHER = 6;

/** The crossings without a mark that matter. */
function openCrossings(figure: Figure, marked: ReadonlySet<number>, otherwise: Otherwise): OpenCrossing[] {
  const free = crossingsOf(figure)
    .map((c) => c.number)
    .filter((n) => !marked.has(n));
  if (free.length > MOST_APART) return free.map((crossing) => ({ crossing }));
  const apart = free.flatMap((crossing) => {
    const made = otherwise([crossing]);
    return made === 'same' ? [] : [{ crossing, ...made }];
  });
  // What may pass for the knot is asked for first.
  const open = [...apart.filter((o) => o.named), ...apart.filter((o) => !o.named)].map(
    ({ crossing, becomes }): OpenCrossing => ({ crossing, becomes }),
  );
  // Crossings that each may lie either way may still not do so together: asked when nothing else is open.
  if (open.length > 0 || free.length < 2) return open;
  const together =
    free.length > MOST_TOGETHER ||
    [...Array(2 ** free.length).keys()].some((bits) => {
      const some = free.filter((_, i) => bits & (1 << i));
      return some.length > 1 && otherwise(some) !== 'same';
    });
  return together ? free.map((crossing) => ({ crossing })) : [];
}

/** Whether frames show the figure. `turned`: it is played mirrored, so what is seen in it is exchanged once more. */
export function judgeFootage(
  figure: Figure,
  frames: readonly MarkedFrame[],
  otherwise: Otherwise,
  turned = false,
): FootageVerdict {
  const judged = frames.map((f) => judgeFrame(figure, turned ? mirroredFrame(f) : f));
  const total = crossingsOf(figure).length;
  const marked = new Set(frames.flatMap((f) => f.marks.map((m) => m.crossing)).filter((n) => n >= 1 && n <= total));
  const telling = judged.filter((f) => f.state === 'agrees').flatMap((f) => f.views);
  const mirrors = new Set(telling.map((v) => v.mirrored));
  const sides = new Set(telling.map((v) => v.side));
  const view =
    mirrors.size === 1 && sides.size === 1 && judged.every((f) => f.state !== 'differs') ? telling[0] : undefined;
  const open = openCrossings(figure, marked, otherwise);
  const base = { frames: judged, view, open };
  if (judged.some((f) => f.state === 'differs') || mirrors.size > 1) {
    const wrong = wrongIn(base);
    const made = wrong.length > 0 ? otherwise(wrong) : 'same';
    return { ...base, state: 'differs', becomes: made === 'same' ? undefined : made.becomes };
  }
  const lacking = Math.min(LEAST_MARKS, total) - marked.size;
  if (lacking > 0) return { ...base, state: 'undecided', next: { kind: 'more', count: lacking } };
  // One frame that tells whether the film is mirrored tells it of all.
  if (telling.length === 0) return { ...base, state: 'undecided', next: { kind: 'directions' } };
  const first = open[0];
  const next: NextMark | undefined = first && { kind: 'crossing', ...first };
  if (mirrors.has(true)) return { ...base, state: 'mirrored', next };
  return { ...base, state: next ? 'undecided' : 'agrees', next };
}

/** A frame as it is seen in a mirror. */
const mirroredFrame = (frame: MarkedFrame): MarkedFrame => {
  const flip = (p: Point | undefined): Point | undefined => p && [-p[0], p[1]];
  return {
    ...frame,
    marks: frame.marks.map((m) => ({ ...m, point: flip(m.point), first: flip(m.first), second: flip(m.second) })),
  };
};
