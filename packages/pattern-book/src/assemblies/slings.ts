/** Slings that are knotted from one rope, and what they lift. */
import type { Assembly } from '@foxtrail/core/assembly';
import { assembly, knot, rope, round, thing, tie } from './write.js';

const BELOW = 'Nobody stands below what is lifted, and nobody holds it by hand while it hangs.';

export const endToEndSling = (): Assembly =>
  assembly({
    name: 'End-to-end sling',
    summary: 'Both ends of a rope joined to a ring of rope: it goes round a load, and both its bights on the hook.',
    cautions: [BELOW, 'The join lies in a straight part, never over an edge or in the hook.'],
    things: [thing('h', 'Hook line', 'ring', 20, [600, 80]), thing('d', 'Load', 'load', 400, [600, 560])],
    knots: [knot('j', 'Join of the ends', 'double-fishermans', [330, 300])],
    ropes: [
      rope('Sling rope', 10, {
        first: 'tail',
        firstMm: 130,
        stops: [tie('j', 700), round('d', 0.5, 800), round('h', 0.5, 200), tie('j', 130, 1)],
      }),
    ],
  });

export const barrelSling = (): Assembly =>
  assembly({
    name: 'Barrel sling',
    summary:
      'A barrel stands on the rope; a half knot over it is opened, and its two halves lie round the barrel above its middle. The end is tied to the standing part.',
    cautions: [
      BELOW,
      'The halves lie well above the middle of the barrel, or it tips out.',
      'For barrels that stand open: lift them closed.',
    ],
    things: [thing('d', 'Barrel', 'barrel', 580, [600, 530])],
    knots: [
      knot('hk', 'Half knot, opened round it', 'half-knot', [600, 250]),
      knot('bo', 'Bowline to the standing part', 'bowline', [840, 110]),
    ],
    ropes: [
      rope('Barrel rope', 12, {
        first: 'standing part',
        firstMm: 1500,
        stops: [tie('hk', 900), round('d', 0.5, 900), tie('hk', 300, 1), tie('bo', 150, 0, 120)],
      }),
    ],
  });

export const plankSling = (): Assembly =>
  assembly({
    name: 'Plank sling',
    summary: 'A plank hung by both its ends: at each a clove hitch, its end tied to the standing part with a bowline.',
    cautions: [
      'A plank that people stand on is a matter for a maker’s platform and a competent person, not for this.',
      'The hitches are drawn tight before the bowlines are tied, so that the plank cannot turn over.',
    ],
    things: [thing('a', 'Left end', 'plank', 220, [330, 560]), thing('b', 'Right end', 'plank', 220, [870, 560])],
    knots: [
      knot('c1', 'Left clove hitch', 'clove-hitch', [330, 510]),
      knot('b1', 'Left bowline', 'bowline', [330, 290]),
      knot('c2', 'Right clove hitch', 'clove-hitch', [870, 510]),
      knot('b2', 'Right bowline', 'bowline', [870, 290]),
    ],
    ropes: (['Left', 'Right'] as const).map((side, i) =>
      rope(`${side} rope`, 10, {
        first: 'standing part',
        firstMm: 3000,
        stops: [tie(`c${i + 1}`, 350), tie(`b${i + 1}`, 130, 0, 120)],
      }),
    ),
  });

/** A bridle of the kite yard: two legs from the spine of a kite to one tow loop, and the tow line on it. */
export const showKiteBridle = (): Assembly =>
  assembly({
    name: 'Bridle of a show kite',
    summary:
      'Two legs run from the spine of the kite to a tow loop; where it sits on them sets how steeply the kite flies. The tow line is hitched to its ring.',
    useGrade: 'light duty',
    cautions: ['Gloves: a kite line cuts.', 'The bridle is looked at after every hard landing.'],
    things: [
      thing('t', 'Head of the spine', 'spar', 16, [180, 130], { turn: 60 }),
      thing('f', 'Foot of the spine', 'spar', 16, [180, 590], { turn: 120 }),
      thing('o', 'Tow ring', 'ring', 6, [880, 360]),
    ],
    knots: [
      knot('up', 'Upper leg at the spine', 'round-turn-two-half-hitches', [340, 190], { on: 't' }),
      knot('to', 'Tow loop', 'butterfly', [700, 360], { on: 'o' }),
      knot('lo', 'Lower leg at the spine', 'round-turn-two-half-hitches', [340, 500], { on: 'f' }),
      knot('li', 'Tow line', 'anchor-hitch', [1010, 360], { on: 'o' }),
    ],
    ropes: [
      rope('Bridle line', 3, {
        first: 'tail',
        firstMm: 80,
        stops: [tie('up', 1350), tie('to', 1820, 0, 90), tie('lo', 80)],
      }),
      rope('Tow line', 4, { firstMm: 60_000, stops: [tie('li', 90)] }),
    ],
  });
