/**
 * Inspection marks: what a learner looks for on the finished knot, on the front and on the back, each computed from the figure.
 */
import { capital } from '../words/inflect.js';
import { crossingsOf, passagesOf } from '../figure/crossings.js';
import { atLength, curveOf, lengthTo, pointAt } from '../figure/curve.js';
import { hostOf, lastAt, type Figure, type Rope, type TrailPosition } from '../figure/figure.js';
import { distance, type Point } from '../figure/point.js';
import { inflect } from '../words/inflect.js';
import { hostWord, numberWord, strandWord, timesWord, type Vocabulary } from '../words/vocabulary.js';
import { apart, crossingAt } from '../figure/crossing-place.js';
import { parallelRuns } from './dress.js';
import { partAt, partWord, sayPart } from './parts.js';
import { sayExits } from './exits.js';
import type { MarkPlace } from './shown.js';
import { grippingTurns, hitchesAbout, ridingTurns, standingSpan } from './winding.js';

export interface InspectionMark extends MarkPlace {
  /** The same for the same mark of the same figure. */
  readonly id: string;
  readonly text: string;
  /** Every place at which it is seen; the first is its own. */
  readonly places: readonly TrailPosition[];
  /** Numbers of the crossings it is at. */
  readonly crossings?: readonly number[];
}

/** A mark at one place, before those that say the same are joined. */
export type SingleMark = Omit<InspectionMark, 'places'>;

/** Most parallel runs that are offered: more are not looked for by anybody. */
const MOST_PARALLELS = 4;

/** Every mark that can be computed, each at its one place. */
export const singleMarks = (figure: Figure, words: Vocabulary): readonly SingleMark[] => [
  ...tails(figure, words),
  ...turnsOf(figure, words),
  ...parallels(figure, words),
  ...pairs(figure, words),
  ...crosses(figure, words),
];

/** Every mark that can be computed; marks of one face that say the same are one, with all their places. */
export function inspectionMarks(figure: Figure, words: Vocabulary): readonly InspectionMark[] {
  const joined = new Map<string, SingleMark[]>();
  for (const mark of singleMarks(figure, words)) {
    const key = `${mark.kind} ${mark.side} ${mark.text}`;
    joined.set(key, [...(joined.get(key) ?? []), mark]);
  }
  return [...joined.values()].map((alike): InspectionMark => {
    const [first] = alike as [SingleMark];
    const crossings = alike.flatMap((m) => m.crossings ?? []);
    return {
      ...first,
      text: alike.length === 1 ? `${first.text}.` : `${first.text}, at ${alike.length} places.`,
      places: alike.map((m) => m.place),
      ...(crossings.length > 0 ? { crossings } : {}),
    };
  });
}

/** A mark that is known by what it is of, wherever that lies. */
const named = (mark: SingleMark): SingleMark => ({ ...mark, of: mark.id });

/** A tail's mark stands this far beyond its last crossing, in diameters: where the picture still shows it. */
const BEYOND = 2.4;

function tails(figure: Figure, words: Vocabulary): SingleMark[] {
  const rope = figure.ropes.filter((r) => !r.closed && r.ends[1] === 'tail');
  return sayExits(figure, words).map((said, i): SingleMark => {
    const text = said.replace(/\.$/, '');
    const own = rope[Math.min(i, rope.length - 1)] as Rope;
    const curve = curveOf(own);
    const last = passagesOf(figure, own.id).at(-1)?.at ?? 0;
    const at = Math.min(lastAt(own), atLength(curve, lengthTo(curve, last) + BEYOND));
    return named({ id: `tail-${i}`, kind: 'tail', side: 'front', text, place: { strand: own.id, at } });
  });
}

function turnsOf(figure: Figure, words: Vocabulary): SingleMark[] {
  const turns = inflect(words.turn, 'shape', 'plural');
  const found = figure.ropes.flatMap((rope) => {
    const whole = { strand: rope.id, from: 0, to: lastAt(rope) };
    const standing = standingSpan(figure, rope);
    const called = strandWord(words, figure, rope.id);
    const onHosts = figure.hosts.flatMap((h): SingleMark[] => {
      const found = hitchesAbout(figure, whole, { strand: h.id, from: 0, to: h.points.length });
      const first = crossingsOf(figure).find((c) => c.first.strand === rope.id && c.second.strand === h.id);
      if (!found || !first) return [];
      const riding = ridingTurns(figure, rope, h);
      const way =
        found.turns < 2 ? '' : found.way === 'the same way' ? ', always the same way' : ', then back the other way';
      return [
        {
          id: `turns-${rope.id}-${h.id}`,
          kind: 'turns',
          side: 'front',
          text: `${capital(called)} goes ${timesWord(found.turns)} round the ${hostWord(words, h)}${way}`,
          place: first.first,
        },
        ...(riding
          ? [
              {
                id: `riding-${rope.id}-${h.id}`,
                kind: 'turns' as const,
                side: 'front' as const,
                text:
                  riding.count === 1
                    ? `One ${words.turn} rides over the ${words.standingPart}`
                    : `${capital(numberWord(riding.count))} ${turns} ride over the ${words.standingPart}, on its ${riding.side}: it holds a pull to the ${riding.side}`,
                place: { strand: rope.id, at: riding.at },
              },
            ]
          : []),
      ];
    });
    // Turns that ride on the standing part are told as riding; else the end goes round it.
    const rides = figure.hosts.some((h) => ridingTurns(figure, rope, h) !== undefined);
    const own =
      figure.hosts.length > 0 && !rides ? hitchesAbout(figure, { ...whole, from: standing.to }, standing) : undefined;
    if (!own) return onHosts;
    const meets = passagesOf(figure, rope.id).filter(
      (p) => p.at > standing.to && p.other.strand === rope.id && p.other.at <= standing.to,
    );
    const way =
      own.turns < 2
        ? ''
        : own.way === 'the same way'
          ? `, ${own.turns === 2 ? 'both' : 'all'} ${turns} the same way`
          : `, the last ${words.turn} reversed`;
    const grip = grippingTurns(figure, rope);
    const [host] = figure.hosts;
    const where =
      grip && host
        ? `; ${numberWord(grip.count)} ${turns} lie ${grip.side === 'toward' ? 'toward' : 'away from'} the ${hostWord(words, host)}, one beyond them`
        : '';
    return [
      ...onHosts,
      {
        id: `hitches-${rope.id}`,
        kind: 'turns' as const,
        side: 'front' as const,
        text: `The end goes ${timesWord(own.turns)} round the ${words.standingPart}${way}${where}`,
        place: { strand: rope.id, at: meets[0]?.at ?? standing.to },
      },
    ];
  });
  return found.map(named);
}

function parallels(figure: Figure, words: Vocabulary): SingleMark[] {
  const kept: ReturnType<typeof parallelRuns>[number][] = [];
  for (const run of parallelRuns(figure))
    if (kept.length < MOST_PARALLELS && kept.every((k) => distance(k.point, run.point) > 5)) kept.push(run);
  return kept.flatMap((run, i) =>
    (['front', 'back'] as const).map((side): SingleMark => ({
      id: `parallel-${i}-${side}`,
      kind: 'parallel',
      side,
      text: `${capital(sayTogether(figure, run.a, run.b, words))} lie side by side and do not cross`,
      place: run.a,
      beside: run.b,
    })),
  );
}

/** Two parts that lie together: “the tail and the standing part”, “two parts of the loop”. */
function sayTogether(figure: Figure, a: TrailPosition, b: TrailPosition, words: Vocabulary): string {
  const [p, q] = [partAt(figure, a), partAt(figure, b)];
  if (a.strand === b.strand && p === q) return `two parts of the ${partWord(p, words)}`;
  if (a.strand === b.strand && figure.ropes.length > 1) {
    const rope = strandWord(words, figure, a.strand);
    return `the ${partWord(p, words)} and the ${partWord(q, words)} of ${rope}`;
  }
  return `${sayPart(figure, a, b, words)} and ${sayPart(figure, b, a, words)}`;
}

/** Which strand lies over which at a crossing, in words; seen from behind the other way round. */
export function sayCrossing(
  figure: Figure,
  number: number,
  words: Vocabulary,
  side: 'front' | 'back' = 'front',
): string {
  const c = crossingsOf(figure).find((x) => x.number === number);
  if (!c) return '';
  const [top, under] = side === 'front' ? [c.over, c.under] : [c.under, c.over];
  return `${sayPart(figure, top, under, words)} lies over ${sayPart(figure, under, top, words)}`;
}

function crosses(figure: Figure, words: Vocabulary): SingleMark[] {
  return crossingsOf(figure).flatMap((c) =>
    (['front', 'back'] as const).map((side): SingleMark => ({
      id: `cross-${c.number}-${side}`,
      kind: 'cross',
      side,
      text: capital(sayCrossing(figure, c.number, words, side)),
      place: c.first,
      beside: c.second,
      crossings: [c.number],
    })),
  );
}

/** What tells a pair of crossings from its first one. */
const PAIR = 'pair';

/** Where one rope passes the standing part and the tail of another together: both on one side of it, as a reef's bights hold them. */
function pairs(figure: Figure, words: Vocabulary): SingleMark[] {
  return figure.ropes.flatMap((rope) => {
    const passages = passagesOf(figure, rope.id);
    return passages.flatMap((p, i): SingleMark[] => {
      const q = passages[i + 1];
      const { strand } = p.other;
      if (p.over !== q?.over || q.other.strand !== strand || strand === rope.id || hostOf(figure, strand)) return [];
      const ends = [p, q].map((x) => partAt(figure, x.other)).sort();
      if (ends.join() !== 'standing part,tail') return [];
      const both = `both parts of ${strandWord(words, figure, strand)}`;
      const own = sayPart(figure, { strand: rope.id, at: p.at }, p.other, words);
      return (['front', 'back'] as const).map((side): SingleMark => {
        const isOver = p.over === (side === 'front');
        return {
          id: `pair-${p.crossing.number}-${q.crossing.number}-${side}`,
          kind: 'cross',
          side,
          text: isOver ? `${capital(own)} lies over ${both}` : `${capital(both)} lie over ${own}`,
          place: p.crossing.first,
          beside: p.crossing.second,
          of: PAIR,
          crossings: [p.crossing.number, q.crossing.number],
        };
      });
    });
  });
}

/** Farthest two strands that run side by side are looked for beside where they did, in control-point intervals, both together. */
const RUN_ASIDE = 6;

/** The mark of a figure that is meant by its kind and place; none when the figure has it no more. */
function markAt(
  figure: Figure,
  all: readonly InspectionMark[],
  wanted: MarkPlace,
  words: Vocabulary,
): InspectionMark | undefined {
  const alike = all.filter((m) => m.kind === wanted.kind && m.side === wanted.side);
  const pair = wanted.beside && { first: wanted.place, second: wanted.beside };
  if (!pair) return alike.find((m) => m.of === wanted.of);
  if (wanted.kind === 'cross') {
    const number = crossingAt(figure, pair)?.number;
    return alike.find(
      (m) => (m.of === PAIR) === (wanted.of === PAIR) && number !== undefined && m.crossings?.includes(number),
    );
  }
  const off = (m: SingleMark): number =>
    m.beside ? apart(figure, pair, { first: m.place, second: m.beside }) : Infinity;
  const nearest = singleMarks(figure, words)
    .filter((m) => m.kind === wanted.kind && m.side === wanted.side)
    .reduce<SingleMark | undefined>((best, m) => (best && off(best) <= off(m) ? best : m), undefined);
  return nearest && off(nearest) <= RUN_ASIDE
    ? alike.find((m) => m.places.some((p) => samePlace(p, nearest.place)))
    : undefined;
}

const samePlace = (p: TrailPosition, q: TrailPosition): boolean => p.strand === q.strand && p.at === q.at;

/** A mark that was chosen for the card, as the figure has it now; without, where the figure has it no more. */
export interface ChosenMark {
  readonly wanted: MarkPlace;
  readonly mark?: InspectionMark | undefined;
}

/** The chosen marks in the order of the card, each once. */
export function chosenMarks(figure: Figure, chosen: readonly MarkPlace[], words: Vocabulary): readonly ChosenMark[] {
  const all = inspectionMarks(figure, words);
  const seen = new Set<string>();
  return chosen.flatMap((wanted): ChosenMark[] => {
    const mark = markAt(figure, all, wanted, words);
    if (!mark) return [{ wanted }];
    if (seen.has(mark.id)) return [];
    seen.add(mark.id);
    return [{ wanted, mark }];
  });
}

/** What is kept of a mark on the card. */
export const placeOfMark = ({ kind, side, place, beside, of }: SingleMark): MarkPlace => ({
  kind,
  side,
  place,
  ...(beside ? { beside } : {}),
  ...(of === undefined ? {} : { of }),
});

/** Where a mark is on the board, at each of its places, in the figure as it is given (front) or in its back view. */
export function markPoints(figure: Figure, { places }: Pick<InspectionMark, 'places'>): readonly Point[] {
  return places.flatMap(({ strand: id, at }) => {
    const strand = [...figure.ropes, ...figure.hosts].find((s) => s.id === id);
    return strand && at <= lastAt(strand) ? [pointAt(curveOf(strand), at)] : [];
  });
}
