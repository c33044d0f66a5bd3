/**
 * Inspection marks: what a learner looks for on the finished knot, on the front and on the back, each computed from the figure.
 */
import { capital } from '../words/inflect.js';
import { crossingsOf, passagesOf } from '../figure/crossings.js';
import { atLength, curveOf, lengthTo, pointAt } from '../figure/curve.js';
import { hostOf, lastAt, ropeOf, type Figure, type Rope, type TrailPosition } from '../figure/figure.js';
import { distance } from '../figure/point.js';
import { inflect } from '../words/inflect.js';
import { timesWord, type Vocabulary } from '../words/vocabulary.js';
import { apart, crossingAt } from '../figure/crossing-place.js';
import { parallelRuns } from './dress.js';
import { sayExits } from './exits.js';
import type { MarkPlace } from './shown.js';
import { hitchesAbout, ridingTurns, standingSpan } from './winding.js';

export interface InspectionMark extends MarkPlace {
  /** The same for the same mark of the same figure. */
  readonly id: string;
  readonly text: string;
  /** Number of the crossing it is at, if it is at one. */
  readonly crossing?: number;
}

/** Most parallel runs that are offered: more are not looked for by anybody. */
const MOST_PARALLELS = 4;

/** Every mark that can be computed, front first. */
export function inspectionMarks(figure: Figure, words: Vocabulary): readonly InspectionMark[] {
  return [...tails(figure, words), ...turnsOf(figure, words), ...parallels(figure, words), ...crosses(figure, words)];
}

/** A mark that is known by what it is of, wherever that lies. */
const named = (mark: InspectionMark): InspectionMark => ({ ...mark, of: mark.id });

/** A tail's mark stands this far beyond its last crossing, in diameters: where the picture still shows it. */
const BEYOND = 2.4;

function tails(figure: Figure, words: Vocabulary): InspectionMark[] {
  const rope = figure.ropes.filter((r) => !r.closed && r.ends[1] === 'tail');
  return sayExits(figure, words).map((text, i): InspectionMark => {
    const own = rope[Math.min(i, rope.length - 1)] as Rope;
    const curve = curveOf(own);
    const last = passagesOf(figure, own.id).at(-1)?.at ?? 0;
    const at = Math.min(lastAt(own), atLength(curve, lengthTo(curve, last) + BEYOND));
    return named({ id: `tail-${i}`, kind: 'tail', side: 'front', text, place: { strand: own.id, at } });
  });
}

function turnsOf(figure: Figure, words: Vocabulary): InspectionMark[] {
  const found = figure.ropes.flatMap((rope) => {
    const whole = { strand: rope.id, from: 0, to: lastAt(rope) };
    const standing = standingSpan(figure, rope);
    const onHosts = figure.hosts.flatMap((h): InspectionMark[] => {
      const found = hitchesAbout(figure, whole, { strand: h.id, from: 0, to: h.points.length });
      const first = crossingsOf(figure).find((c) => c.first.strand === rope.id && c.second.strand === h.id);
      if (!found || !first) return [];
      const riding = ridingTurns(figure, rope, h);
      const rides: InspectionMark[] = riding
        ? [
            {
              id: `riding-${rope.id}-${h.id}`,
              kind: 'turns',
              side: 'front',
              text:
                riding.count === 1
                  ? `One ${words.turn} rides over the ${words.standingPart}.`
                  : `${riding.count} ${inflect(words.turn, 'shape', 'plural')} ride over the ${words.standingPart}, on its ${riding.side}: it holds a pull to the ${riding.side}.`,
              place: first.first,
            },
          ]
        : [];
      const way = found.way === 'the same way' ? 'the same way round' : 'then back the other way';
      return [
        {
          id: `turns-${rope.id}-${h.id}`,
          kind: 'turns',
          side: 'front',
          text: `The ${words.rope} goes ${timesWord(found.turns)} round the ${words.hosts[h.kind] ?? h.kind}, ${way}.`,
          place: first.first,
        },
        ...rides,
      ];
    });
    const later = { ...whole, from: standing.to };
    const own = figure.hosts.length > 0 ? hitchesAbout(figure, later, standing) : undefined;
    const onItself: InspectionMark[] = own
      ? [
          {
            id: `hitches-${rope.id}`,
            kind: 'turns',
            side: 'front',
            text: `The end goes ${timesWord(own.turns)} round the ${words.standingPart}, ${own.way === 'the same way' ? `both ${inflect(words.turn, 'shape', 'plural')} the same way` : `the last ${words.turn} reversed`}.`,
            place: crossingsOf(figure).find((c) => c.first.strand === rope.id && c.second.strand === rope.id)
              ?.first ?? {
              strand: rope.id,
              at: standing.to,
            },
          },
        ]
      : [];
    return [...onHosts, ...onItself];
  });
  return found.map(named);
}

function parallels(figure: Figure, words: Vocabulary): InspectionMark[] {
  const kept: ReturnType<typeof parallelRuns>[number][] = [];
  for (const run of parallelRuns(figure))
    if (kept.length < MOST_PARALLELS && kept.every((k) => distance(k.point, run.point) > 5)) kept.push(run);
  return kept.flatMap((run, i) =>
    (['front', 'back'] as const).map((side): InspectionMark => ({
      id: `parallel-${i}-${side}`,
      kind: 'parallel',
      side,
      text: `Two ${inflect(words.strand, 'part of a rope', 'plural')} lie side by side here and do not cross.`,
      place: run.a,
      beside: run.b,
    })),
  );
}

/** The strand at a passage in a few words. */
function strandWords(figure: Figure, p: TrailPosition, other: TrailPosition, words: Vocabulary): string {
  const host = hostOf(figure, p.strand);
  if (host) return `the ${words.hosts[host.kind] ?? host.kind}`;
  if (figure.ropes.length > 1 && p.strand !== other.strand)
    return `the ${words.ropes[figure.ropes.findIndex((r) => r.id === p.strand)] ?? `rope ${p.strand}`}`;
  const rope = ropeOf(figure, p.strand) as Rope;
  const eye = rope.eyes?.[0];
  if (hostOf(figure, other.strand)) return `the ${words.rope}`;
  if (eye !== undefined && p.at < eye !== other.at < eye)
    return p.at < eye ? `the ${words.standingPart}` : `the ${words.workingEnd}’s ${words.strand}`;
  return p.at < other.at
    ? `the ${words.strand} nearer the ${words.standingPart}`
    : `the ${words.strand} nearer the ${words.tail}`;
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
  return `${strandWords(figure, top, under, words)} lies over ${strandWords(figure, under, top, words)}`;
}

function crosses(figure: Figure, words: Vocabulary): InspectionMark[] {
  return crossingsOf(figure).flatMap((c) =>
    (['front', 'back'] as const).map((side): InspectionMark => {
      const text = `${sayCrossing(figure, c.number, words, side)} here.`;
      return {
        id: `cross-${c.number}-${side}`,
        kind: 'cross',
        side,
        text: capital(text),
        place: c.first,
        beside: c.second,
        crossing: c.number,
      };
    }),
  );
}

/** Farthest two strands that run side by side are looked for beside where they did, in control-point intervals, both together. */
const RUN_ASIDE = 6;

/** The mark of a figure that is meant by its kind and place; none when the figure has it no more. */
function markAt(figure: Figure, all: readonly InspectionMark[], wanted: MarkPlace): InspectionMark | undefined {
  const alike = all.filter((m) => m.kind === wanted.kind && m.side === wanted.side);
  const pair = wanted.beside && { first: wanted.place, second: wanted.beside };
  if (!pair) return alike.find((m) => m.of === wanted.of);
  if (wanted.kind === 'cross') {
    const crossing = crossingAt(figure, pair);
    return alike.find((m) => m.crossing === crossing?.number);
  }
  const off = (m: InspectionMark): number =>
    m.beside ? apart(figure, pair, { first: m.place, second: m.beside }) : Infinity;
  const nearest = alike.reduce<InspectionMark | undefined>(
    (best, m) => (best && off(best) <= off(m) ? best : m),
    undefined,
  );
  return nearest && off(nearest) <= RUN_ASIDE ? nearest : undefined;
}

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
    const mark = markAt(figure, all, wanted);
    if (!mark) return [{ wanted }];
    if (seen.has(mark.id)) return [];
    seen.add(mark.id);
    return [{ wanted, mark }];
  });
}

/** What is kept of a mark on the card. */
export const placeOfMark = ({ kind, side, place, beside, of }: InspectionMark): MarkPlace => ({
  kind,
  side,
  place,
  ...(beside ? { beside } : {}),
  ...(of === undefined ? {} : { of }),
});

/** Where a mark is on the board, in the figure as it is given (front) or in its back view. */
export function markPoint(figure: Figure, mark: Pick<InspectionMark, 'place'>): readonly [number, number] | undefined {
  const strand = [...figure.ropes, ...figure.hosts].find((s) => s.id === mark.place.strand);
  return strand && mark.place.at <= lastAt(strand) ? pointAt(curveOf(strand), mark.place.at) : undefined;
}
