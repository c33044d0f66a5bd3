/** Lines that are drawn tight, or hang a load from two legs. */
import type { Assembly } from '@foxtrail/core/assembly';
import { assembly, knot, rope, round, thing, through, tie } from './write.js';

const HAUL = 'Nobody stands in line with a rope that is hauled tight: it strikes where it breaks, or slips.';

const purchase = (school: string, loop: 'slip-knot' | 'butterfly', told: string): Assembly =>
  assembly({
    name: `Trucker’s purchase, ${school}`,
    summary: `A load is lashed down: the rope goes through a ring, back through a loop in its own standing part, and is hauled tight. ${told}`,
    school,
    cautions: [HAUL, 'It is hauled by hand alone: what it gains by machines breaks ropes.'],
    things: [
      thing('a', 'Far ring', 'ring', 14, [110, 330]),
      thing('b', 'Near ring', 'ring', 14, [1090, 330]),
      thing('d', 'Load', 'load', 600, [520, 560]),
    ],
    knots: [
      knot('an', 'Anchor at the far side', 'bowline', [270, 330], { on: 'a' }),
      knot('lo', 'Loop in the standing part', loop, [620, 330]),
      knot('fi', 'Hitches that finish it', 'two-half-hitches', [900, 120]),
    ],
    ropes: [
      rope('Lashing', 10, {
        first: 'tail',
        firstMm: 150,
        stops: [
          tie('an', 2200, 0, 120),
          tie('lo', 700, 0, 160),
          round('b', 0.5, 600),
          through('lo', 250),
          tie('fi', 200),
        ],
      }),
    ],
  });

export const purchaseSlip = (): Assembly =>
  purchase('loop by a slip knot', 'slip-knot', 'The loop is a slip knot: it falls apart when the rope is let go.');
export const purchaseButterfly = (): Assembly =>
  purchase('loop by a butterfly', 'butterfly', 'The loop is a butterfly: it does not jam, and is not drawn shut.');

export const ridgeLine = (): Assembly =>
  assembly({
    name: 'Ridge line with gripping hitches',
    summary:
      'A line between two posts, drawn tight by a hitch that slides; two slings grip it and hold the corners of a sheet apart.',
    useGrade: 'light duty',
    cautions: ['A line at the height of a neck is marked with cloth, so that it is seen.'],
    things: [
      thing('l', 'Left post', 'post', 90, [70, 170]),
      thing('r', 'Right post', 'post', 90, [1130, 170]),
      thing('p', 'Left corner of the sheet', 'ring', 12, [430, 615]),
      thing('q', 'Right corner of the sheet', 'ring', 12, [770, 615]),
    ],
    knots: [
      knot('an', 'Anchor at the left post', 'bowline', [230, 170], { on: 'l' }),
      knot('te', 'Hitch that tightens', 'taut-line-hitch', [970, 170], { on: 'r' }),
      knot('g1', 'Left gripping hitch', 'prusik', [430, 170]),
      knot('j1', 'Join of the left sling', 'double-fishermans', [430, 410], { on: 'p' }),
      knot('g2', 'Right gripping hitch', 'prusik', [770, 170]),
      knot('j2', 'Join of the right sling', 'double-fishermans', [770, 410], { on: 'q' }),
    ],
    ropes: [
      rope('Ridge line', 8, {
        first: 'tail',
        firstMm: 120,
        stops: [tie('an', 1200, 0, 400), tie('g1', 2000), tie('g2', 900), tie('te', 200, 0, 700)],
      }),
      ...([1, 2] as const).map((n) =>
        rope(n === 1 ? 'Left sling' : 'Right sling', 5, {
          first: 'tail',
          firstMm: 60,
          stops: [tie(`j${n}`, 180), tie(`g${n}`, 180, 1), tie(`j${n}`, 60, 1)],
        }),
      ),
    ],
  });

export const twoLegHitch = (): Assembly =>
  assembly({
    name: 'Two-leg hitch with a slipped loop',
    summary:
      'A crate hangs from a loop in mid-rope by two legs: one is tied with a bowline, the other with a slipped loop that comes off with one pull when the crate stands.',
    cautions: [
      'Keep the angle between the legs small: at 120° each leg carries as much as the whole load.',
      'The slipped loop is dressed before it is loaded, or it tumbles.',
      'Nobody stands below.',
    ],
    legs: { spanMm: 600, firstMm: 900, secondMm: 900 },
    things: [
      thing('h', 'Hook line', 'ring', 20, [600, 70]),
      thing('d', 'Crate', 'load', 600, [600, 610]),
      thing('l', 'Left eye of the crate', 'ring', 16, [300, 560]),
      thing('r', 'Right eye of the crate', 'ring', 16, [900, 560]),
    ],
    knots: [
      knot('ey', 'Lifting loop', 'butterfly', [600, 210], { on: 'h' }),
      knot('l1', 'Left leg', 'bowline', [300, 410], { on: 'l' }),
      knot('r1', 'Right leg', 'slipped-bowline', [900, 410], { on: 'r' }),
    ],
    ropes: [
      rope('Sling rope', 12, {
        first: 'tail',
        firstMm: 150,
        stops: [tie('l1', 650, 0, 180), tie('ey', 650, 0, 240), tie('r1', 200, 0, 180)],
      }),
    ],
  });
