/**
 * Hitches for timber: the end round its own standing part and along itself. Laid by height: the spar is at 0.
 */
import type { Figure, Raised } from '@foxtrail/core';
import { layered, spar, withTails } from '../lay.js';
import type { PatternSource } from '../pattern.js';

const [FRONT, TWISTED, BEHIND] = [1, 2, -1] as const;

/** Height of the log, and of the part that lies below it and that the end is twisted round. */
const LOG = -6.2;
const OWN_PART = -0.4;
/** Of the turns round its own part: from one to the next, and to either side. */
const TURN = 3.3;
const REACH = 1.9;

/** From the standing part in front of the log: round behind it, round the standing part and three times round itself. */
const TIMBER: readonly Raised[] = [
  [0, 2.5, FRONT],
  [0, -2.5, FRONT],
  [0, LOG, FRONT],
  [-1, LOG - 2.6, 0],
  [-3.6, LOG - 3.4, 0],
  [-8.4, LOG - 3.4, 0],
  [-13, LOG - 3, 0],
  [-14.8, LOG, BEHIND],
  [-14.8, LOG + 3.2, BEHIND],
  [-13.6, -1, 0],
  [-11.4, OWN_PART, 0],
  [-6.5, OWN_PART, 0],
  [-2.4, OWN_PART, 0.8],
  [0, OWN_PART, TWISTED],
  [2.6, OWN_PART + 0.3, FRONT],
  [3.6, OWN_PART + 1.8, 0],
  [2.4, OWN_PART + 3.2, 0],
  [0, OWN_PART + 3.2, 0],
  [-1.4, OWN_PART + 2.8, 0],
  ...[0, 1, 2].flatMap((k): Raised[] => {
    const x = -2.4 - TURN * k;
    return [
      [x, OWN_PART + REACH, 0],
      [x - 0.35 * TURN, OWN_PART, TWISTED],
      [x - 0.65 * TURN, OWN_PART - REACH, 0],
      [x - 0.82 * TURN, OWN_PART, -0.5],
    ];
  }),
  [-12.2, OWN_PART + REACH + 0.3, FRONT],
  [-13, OWN_PART + 5, FRONT],
  [-14.6, OWN_PART + 8.6, FRONT],
];

/** The standing part along the log, once round it and under itself, on its way to the timber hitch. */
const ALONG_THE_LOG: readonly Raised[] = [
  [15.2, LOG - 1, 2.4],
  [13.4, LOG - 1, 2.4],
  [11, LOG - 1, 2.4],
  [7.2, LOG - 0.4, 2],
  [4.8, LOG + 1.2, 1.5],
  [4.8, LOG + 3.2, 0],
  [6.4, LOG + 3.6, BEHIND],
  [8.2, LOG + 1, BEHIND],
  [9.6, LOG - 2.6, BEHIND],
  [11.4, LOG - 4.2, 0],
  [13, LOG - 3, FRONT],
  [12.4, LOG, FRONT],
  [11, LOG + 3, FRONT],
  [9, LOG + 6, FRONT],
  [6.6, 2.4, FRONT],
  [4, 4.6, FRONT],
  [1.2, 5.2, FRONT],
];

const onLog = (lead: readonly Raised[], reach: number): Figure =>
  withTails(layered([{ points: [...lead, ...TIMBER] }], [spar(LOG, reach, 3)]));

const ROUGH = 'For rough timber only: never on metal, never for a vertical lift on smooth stock.';

export const TIMBER_HITCHES: readonly PatternSource[] = [
  {
    id: 'timber-hitch',
    name: 'Timber hitch',
    class: 'hitch',
    family: 'Half hitches',
    summary: 'Drags or lifts rough timber: the end round its own standing part and three times round itself.',
    cautions: [ROUGH],
    figure: () =>
      onLog(
        [
          [0, 9, FRONT],
          [0, 6, FRONT],
        ],
        17,
      ),
    drawn: true,
  },
  {
    id: 'killick-hitch',
    name: 'Killick hitch',
    aliases: ['timber hitch and a half hitch'],
    class: 'hitch',
    family: 'Half hitches',
    summary: 'Tows a log lengthwise: a timber hitch, and a half hitch of the standing part nearer to the pull.',
    cautions: [
      ROUGH,
      'The half hitch lies on the side of the pull: it keeps the log in line, the timber hitch holds it.',
    ],
    figure: () => onLog(ALONG_THE_LOG, 15.7),
    drawn: true,
    bothEndsFrom: ALONG_THE_LOG.length - 2,
  },
];
