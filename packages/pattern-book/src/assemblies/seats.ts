/** The knotted seat, in the two schools of its leg loops. */
import type { Assembly, RoundWay } from '@foxtrail/core/assembly';
import { assembly, knot, rope, round, thing, tie } from './write.js';

const seat = (way: RoundWay): Assembly =>
  assembly({
    name: `Knotted seat, leg loops ${way}`,
    summary:
      'The middle of the rope lies in wraps above the hips and both ends leave it in front; each goes round a thigh and is hitched to the wraps, and a square knot with two keepers joins both at the side.',
    useGrade: 'people depend on it',
    school: `leg loops routed ${way}`,
    cautions: [
      'A square knot alone is never trusted: both keepers are tied, every time.',
      'The carabiner holds the wraps and both leg loops together, its gate up and out, locked.',
    ],
    legLoops: way,
    things: [
      thing('w', 'Waist', 'waist', 300, [600, 160]),
      thing('l', 'Left thigh', 'thigh', 190, [420, 570]),
      thing('r', 'Right thigh', 'thigh', 190, [780, 570]),
      thing('c', 'Carabiner', 'carabiner', 10, [600, 400], { gate: 'up and out' }),
    ],
    knots: [
      knot('h1', 'Left hitch on the wraps', 'half-hitch', [240, 440]),
      knot('h2', 'Right hitch on the wraps', 'half-hitch', [960, 440]),
      knot('sq', 'Square knot at the side', 'reef', [890, 150], { keepers: 2 }),
      knot('k1', 'First keeper', 'overhand', [1100, 95], { guards: 'sq' }),
      knot('k2', 'Second keeper', 'overhand', [1110, 275], { guards: 'sq' }),
    ],
    // From the end that comes round the back to the end at the side: the middle of the rope lies at the waist.
    ropes: [
      rope('Seat rope', 10, {
        first: 'tail',
        firstMm: 150,
        stops: [
          tie('k1'),
          tie('sq', 60),
          round('w', 0.5, 60),
          tie('h1', 120),
          round('l', 1, 150, way),
          round('c', 0.5, 60),
          round('w', 3, 60),
          round('c', 0.5, 150),
          round('r', 1, 120, way),
          tie('h2', 100),
          tie('sq', 0, 1),
          tie('k2', 150),
        ],
      }),
    ],
  });

export const seatUpward = (): Assembly => seat('upward');
export const seatDownward = (): Assembly => seat('downward');
