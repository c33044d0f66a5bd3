/**
 * A text taken apart into what it tells the end to pass: each part by the name it is given, over or under, in order. What the composer
 * says is understood, and what a teacher says in the same words; the first that is not is where reading stops.
 */
import type { Letter } from '../figure/figure.js';
import { opposite } from '../figure/laying.js';
import { NUMBER_WORDS } from '../words/vocabulary.js';

/** One passage that is told. */
export interface ToldPass {
  /** What the part is called: “the standing part”; absent: what led to the first passage of its move. */
  readonly what?: string;
  readonly over: boolean;
}

export type ToldMove =
  /** Rope laid out as it comes: nothing is passed. */
  | { readonly kind: 'laid' }
  | { readonly kind: 'passes'; readonly passes: readonly ToldPass[] }
  /** Beside another rope, as far as it goes. */
  | { readonly kind: 'follow'; readonly what: string; readonly back: boolean };

export interface Told {
  readonly moves: readonly ToldMove[];
  /** Where in the text each move is told. */
  readonly places: readonly { readonly from: number; readonly to: number }[];
  /** Words that are not understood, where reading stopped; absent: all of it was read. */
  readonly stopped?: string;
}

/** What a part may be called, as far as a phrase goes. */
const PART = String.raw`((?:the|its|both) [a-z’'-]+(?: [a-z’'-]+){0,6}?)`;
const END = String.raw`(?=[,.:;]|$| and | again| to make| twice| (?:two|three|four|five|six) times| inside| outside| but )`;

const number = (word: string): number =>
  word === 'once' ? 1 : word === 'twice' ? 2 : NUMBER_WORDS.indexOf(word.replace(/ times?$/, ''));
const COUNT = String.raw`(once|twice|(?:${NUMBER_WORDS.slice(2).join('|')}) times)`;
const HALF_COUNT = String.raw`(once|${NUMBER_WORDS.slice(1).join('|')}) and a half(?: times)?`;

/** Ways by turns, from the first on. */
const byTurns = (first: Letter, n: number): string =>
  Array.from({ length: n }, (_, i) => (i % 2 === 0 ? first : opposite(first))).join('');
const wayOf = (word: string | undefined): Letter => (/^(?:over|across|in front)/.test(word ?? 'over') ? 'O' : 'U');

const passes = (what: string | undefined, ways: string): ToldPass[] =>
  Array.from(ways, (way): ToldPass => ({ ...(what === undefined ? {} : { what }), over: way === 'O' }));

/** What names two strands at once, each another. */
const BOTH = /^both (?:ropes|parts|standing parts|lines|standing lines)$/;

/** Two parts gone round together: met in one order, and back in the other. */
function together(parts: readonly string[], first: Letter, halves: number): ToldPass[] {
  return Array.from(byTurns(first, halves)).flatMap((way, i) =>
    (i % 2 === 0 ? parts : [...parts].reverse()).map((what): ToldPass => ({ what, over: way === 'O' })),
  );
}

/** “The first and the second”, “both legs of the bight”: the parts that one phrase names. */
function partsIn(phrase: string): string[] {
  if (BOTH.test(phrase)) return [phrase, phrase];
  const both = /^both [a-z]+ of (.+)$/.exec(phrase);
  if (both?.[1] !== undefined) return [both[1], both[1]];
  const two = /^(.+?) and (the .+|its .+)$/.exec(phrase);
  return two ? [two[1] as string, two[2] as string] : [phrase];
}

/** What a phrase tells, by the pattern that it fits. Longer patterns come before those that they begin with. */
const PHRASES: readonly (readonly [RegExp, (m: RegExpExecArray) => readonly ToldMove[]])[] = [
  [
    /^(?:(?:lay|double|bring|lead|draw) (?:the|it)[^.,]*? (?:out|back to make [a-z ]+|round(?: as shown| to the [a-z]+| in a bight)?|round what is to be held, and leave an eye|away[^.]*)|leave an eye)(?:, to the [a-z]+)?(?=[.,]|$)/,
    () => [{ kind: 'laid' }],
  ],
  [/^hold the [a-z ]+? (?:taut|tight|open)(?=[,.]|$)/, () => [{ kind: 'laid' }]],
  [/^draw the rest of [^.,]*? through the [a-z]+(?=\.|$)/, () => [{ kind: 'passes', passes: passes(undefined, 'O') }]],
  [
    new RegExp(String.raw`^over ${PART}, round behind it(?=, and draw)`),
    (m) => [{ kind: 'passes', passes: passes(m[1], 'OU') }],
  ],
  [
    new RegExp(String.raw`^behind ${PART}, back over it(?=, and draw)`),
    (m) => [{ kind: 'passes', passes: passes(m[1], 'UO') }],
  ],
  [
    /^tie a loose overhand knot in the [a-z ]+?(?=\.|$)/,
    () => [{ kind: 'passes', passes: [...passes('the standing part', 'O'), ...passes('the loop', 'UO')] }],
  ],
  [
    new RegExp(
      String.raw`^make (?:a|another) half hitch (?:round|on|about) ${PART}(?: (?:inside|outside) the [a-z ]+?)?(?:, the (same|other) way round)?(?:: (over|behind|under|in front of) it[^.]*)?(?=\.|$)`,
    ),
    (m) => {
      const ways = /over it, round behind, over it again|behind it, over it, behind it again/.test(m[0]) ? 3 : 2;
      const first = wayOf(m[3]);
      return [
        {
          kind: 'passes',
          passes: [...passes(m[1], byTurns(first, ways)), ...passes(undefined, ways === 3 ? opposite(first) : first)],
        },
      ];
    },
  ],
  [
    new RegExp(
      String.raw`^make an? [a-z ]*?(?:round turn|turn|wrap)[a-z ]*? on ${PART} with [a-z ]+?, first (over|behind|under)[^.]*(?=\.|$)`,
    ),
    (m) => [{ kind: 'passes', passes: passes(m[1], byTurns(wayOf(m[2]), 4)) }],
  ],
  [
    new RegExp(String.raw`^follow ${PART} (back )?with [^.]*?(?=\.|$)`),
    (m) => [{ kind: 'follow', what: m[1] as string, back: m[2] !== undefined }],
  ],
  [
    new RegExp(
      String.raw`^(?:${COUNT} )?(?:more )?round ${PART}(?: (?:inside|outside) the [a-z]+)?,? and out through its own [a-z]+`,
    ),
    (m) => {
      const parts = partsIn(m[2] as string);
      const turns = m[1] === undefined ? 1 : number(m[1]);
      return [{ kind: 'passes', passes: [...together(parts, 'O', 2 * turns), ...passes(undefined, 'O')] }];
    },
  ],
  [
    new RegExp(
      String.raw`^(?:${HALF_COUNT}|${COUNT}) (?:more )?round ${PART}(?: (?:inside|outside) the [a-z]+)?, first (over|behind|under) (?:it|them)(?:, working [a-z ]+)?`,
    ),
    (m) => {
      const halves = m[1] === undefined ? 2 * number(m[2] as string) : 2 * number(m[1]) + 1;
      return [{ kind: 'passes', passes: together(partsIn(m[3] as string), wayOf(m[4]), halves) }];
    },
  ],
  [
    new RegExp(String.raw`^${COUNT} (up|down) through ${PART}, each [a-z]+ beside the last`),
    (m) => [
      {
        kind: 'passes',
        passes: passes(m[3], (m[2] === 'up' ? 'UO' : 'OU').repeat(number(m[1] as string))),
      },
    ],
  ],
  [
    new RegExp(String.raw`^(?:back )?(up|down) through (both|all three) ([a-z]+)${END}`),
    (m) => {
      const deep = m[2] === 'both' ? 2 : 3;
      const [first, last] = m[1] === 'up' ? (['U', 'O'] as const) : (['O', 'U'] as const);
      return [
        {
          kind: 'passes',
          passes: passes(`${m[2] as string} ${m[3] as string}`, first.repeat(deep) + last.repeat(deep)),
        },
      ];
    },
  ],
  [
    new RegExp(String.raw`^(?:back )?through ${PART} from (in front|behind)`),
    (m) => [{ kind: 'passes', passes: passes(m[1], m[2] === 'behind' ? 'UO' : 'OU') }],
  ],
  [
    new RegExp(String.raw`^(?:back )?(up|down) through ${PART}${END}`),
    (m) => [{ kind: 'passes', passes: passes(m[2], m[1] === 'up' ? 'UO' : 'OU') }],
  ],
  [
    new RegExp(String.raw`^over ${PART}, round behind it and over it again`),
    (m) => [{ kind: 'passes', passes: passes(m[1], 'OUO') }],
  ],
  [
    new RegExp(String.raw`^round behind ${PART}, over it and behind it again`),
    (m) => [{ kind: 'passes', passes: passes(m[1], 'UOU') }],
  ],
  [
    new RegExp(String.raw`^over ${PART}(?: again)? and round behind it`),
    (m) => [{ kind: 'passes', passes: passes(m[1], 'OU') }],
  ],
  [
    new RegExp(String.raw`^behind ${PART}(?: again)? and back over it`),
    (m) => [{ kind: 'passes', passes: passes(m[1], 'UO') }],
  ],
  [
    new RegExp(String.raw`^(?:(?:round )?behind|over) both [a-z]+ of ${PART}${END}`),
    (m) => [{ kind: 'passes', passes: passes(m[1], m[0].startsWith('over') ? 'OO' : 'UU') }],
  ],
  [
    new RegExp(String.raw`^(over|under) the near [a-z]+ of ${PART} and (?:over|under) the far one`),
    (m) => [{ kind: 'passes', passes: passes(m[2], m[1] === 'over' ? 'OU' : 'UO') }],
  ],
  [
    new RegExp(String.raw`^(across|beneath) ${PART} but (?:under|over) ${PART}${END}`),
    (m) => {
      const way = wayOf(m[1]);
      return [
        {
          kind: 'passes',
          passes: [...passes(m[2], way), ...passes(m[3], opposite(way)), ...passes(m[2], way)],
        },
      ];
    },
  ],
  [
    new RegExp(String.raw`^(across|beneath) ${PART}${END}`),
    (m) => [{ kind: 'passes', passes: passes(m[2], wayOf(m[1]).repeat(2)) }],
  ],
  [
    new RegExp(
      String.raw`^(over|under|in front of|round behind|behind) ${PART}(?: again)?(?: ${COUNT})?${END}(?:, from (?:left|right|top|bottom) to (?:left|right|top|bottom))?`,
    ),
    (m) => [{ kind: 'passes', passes: passes(m[2], wayOf(m[1]).repeat(m[3] === undefined ? 1 : number(m[3]))) }],
  ],
];

/** Words that lead from one move to the next and tell none themselves. */
const BETWEEN =
  /^(?:[,.:;\s]+|tie an overhand[^:.]*(?=: )|and (?!out )|then |so |again(?=[,.]|$)|(?:take|bring|tuck|pass|lead) (?:(?:a|the) bight(?: of the [a-z]+ rope)?|the [a-z ]*?end(?: of the [a-z]+ rope)?|it) |to make an? [a-z ]+?(?=[,.]|$)|and out (?:to the (?:left|right)|at the (?:top|bottom))|out (?:to the (?:left|right)|at the (?:top|bottom)))/;

/** Reads a text as far as it goes. */
export function readTold(text: string): Told {
  const moves: ToldMove[] = [];
  const places: { from: number; to: number }[] = [];
  const whole = text.toLowerCase().replaceAll("'", '’');
  for (let at = 0; at < whole.length;) {
    const rest = whole.slice(at);
    const [found] = PHRASES.flatMap(([words, tells]) => {
      const m = words.exec(rest);
      return m ? [{ length: m[0].length, told: tells(m) }] : [];
    });
    if (found) {
      for (const move of found.told) {
        moves.push(move);
        places.push({ from: at, to: at + found.length });
      }
      at += found.length;
      continue;
    }
    const between = BETWEEN.exec(rest)?.[0] ?? '';
    if (between === '') return { moves, places, stopped: text.slice(at).trim() };
    at += between.length;
  }
  return { moves, places };
}
