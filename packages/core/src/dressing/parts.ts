/**
 * Parts of a laid rope by what they have become: standing part, nipping turn, leg of the loop, collar, tail. Told by where the rope meets
 * what, never by over and under, so that a wrong crossing does not change what the parts are called.
 */
import { rememberedBy } from '../ground/remembered.js';
import { passagesOf, type Passage } from '../figure/crossings.js';
import { hostOf, ropeOf, type Figure, type Rope, type TrailPosition } from '../figure/figure.js';
import { strandWord, type Vocabulary } from '../words/vocabulary.js';

export type Part = 'standing part' | 'nipping turn' | 'leg' | 'collar' | 'tail' | 'bight' | 'loop' | 'turn';

/** A part from one trail position to the next. */
interface Span {
  readonly part: Part;
  readonly to: number;
}

/** The turn that grips what is led through it: the first the rope makes before its eye, with something inside. */
function nippingTurn(passages: readonly Passage[], rope: string, eye: number): readonly [number, number] | undefined {
  for (const p of passages) {
    const { strand, at: end } = p.other;
    if (strand !== rope || !(p.at < end && end < eye)) continue;
    if (passages.some((x) => x.at > p.at && x.at < end)) return [p.at, end];
  }
  return undefined;
}

/** Half way between two passages the rope is the one part, and beyond it the other. */
const HALF = 0.5;

function spansWithEye(passages: readonly Passage[], rope: string, eye: number): Span[] | undefined {
  const nip = nippingTurn(passages, rope, eye);
  if (!nip) return undefined;
  const [begins, ends] = nip;
  // The bight that goes round the standing part: where the end, coming back from the eye, meets it.
  const round = passages.filter((p) => p.at > eye && p.other.strand === rope && p.other.at < begins);
  const spans: Span[] = [
    { part: 'standing part', to: begins },
    { part: 'nipping turn', to: ends - 1e-9 },
  ];
  const [first, last] = [round[0], round.at(-1)];
  if (!first || !last) return [...spans, { part: 'leg', to: eye }, { part: 'tail', to: Infinity }];
  const before = passages.filter((p) => p.at < first.at).at(-1)?.at ?? first.at;
  const after = passages.find((p) => p.at > last.at)?.at ?? last.at;
  return [
    ...spans,
    { part: 'leg', to: first.at + (before - first.at) * HALF },
    { part: 'collar', to: last.at + (after - last.at) * HALF },
    { part: 'tail', to: Infinity },
  ];
}

const crossesItself = (figure: Figure, { id }: Rope): boolean =>
  passagesOf(figure, id).some((p) => p.other.strand === id);

/** What a rope without a loop that stays is between its ends: a turn about a host or another rope's bight, a bight, or a loop. */
function middleOf(figure: Figure, rope: Rope): Part {
  if (figure.hosts.length > 0) return 'turn';
  if (figure.ropes.length > 1 && !crossesItself(figure, rope)) return 'bight';
  return figure.ropes.some((r) => r !== rope && !crossesItself(figure, r)) ? 'turn' : 'loop';
}

function spansOf(figure: Figure, rope: Rope): Span[] {
  const passages = passagesOf(figure, rope.id);
  const middle = middleOf(figure, rope);
  const [first, last] = [passages[0], passages.at(-1)];
  if (rope.closed || !first || !last) return [{ part: middle, to: Infinity }];
  const eye = rope.eyes?.[0];
  const known = eye === undefined ? undefined : spansWithEye(passages, rope.id, eye);
  if (known) return known;
  const end = (role: Rope['ends'][0]): Part => (role === 'tail' ? 'tail' : 'standing part');
  const [second, lastButOne] = [passages[1] ?? first, passages.at(-2) ?? last];
  return [
    { part: end(rope.ends[0]), to: first.at + (second.at - first.at) * HALF },
    { part: middle, to: last.at + (lastButOne.at - last.at) * HALF },
    { part: end(rope.ends[1]), to: Infinity },
  ];
}

const parts = rememberedBy((figure: Figure, rope: string): readonly Span[] =>
  spansOf(figure, ropeOf(figure, rope) as Rope),
);

/** Which part of its rope lies at a trail position. */
export const partAt = (figure: Figure, { strand, at }: TrailPosition): Part =>
  (parts(figure, strand).find((s) => at <= s.to) ?? { part: 'turn' as const }).part;

/** A part in the words of a vocabulary, without its article. */
export function partWord(part: Part, words: Vocabulary): string {
  switch (part) {
    case 'standing part':
      return words.standingPart;
    case 'nipping turn':
      return words.nippingTurn;
    case 'leg':
      return `leg of the ${words.loop}`;
    case 'collar':
      return words.collar;
    case 'tail':
      return words.tail;
    case 'bight':
      return words.bight;
    case 'loop':
      return words.loop;
    case 'turn':
      return words.turn;
  }
}

/** What lies at a place, told from what lies at another: “the collar”, “the bight of the dark rope”, “the earlier turn”, “the spar”. */
export function sayPart(figure: Figure, p: TrailPosition, other: TrailPosition, words: Vocabulary): string {
  const strand = strandWord(words, figure, p.strand);
  if (hostOf(figure, p.strand) || hostOf(figure, other.strand)) return strand;
  const part = partAt(figure, p);
  const word = partWord(part, words);
  const when = p.at < other.at ? 'earlier' : 'later';
  const isTwice = p.strand === other.strand && partAt(figure, other) === part;
  const said = !isTwice ? `the ${word}` : part === 'turn' ? `the ${when} ${word}` : `the ${when} part of the ${word}`;
  return figure.ropes.length > 1 ? `${said} of ${strand}` : said;
}
