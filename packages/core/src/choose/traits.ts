/**
 * Traits: what a knot is and does, as far as it matters for choosing one. Each is computed from the drawing or judged by a person, and says
 * which.
 */
import { passagesOf } from '../figure/crossings.js';
import { curveOf, lengthTo } from '../figure/curve.js';
import type { Figure } from '../figure/figure.js';
import type { KnotDocument } from '../knot/document.js';
import { classOf, type Classified } from '../identity/classify.js';
import { kinKnot } from '../kin/prove.js';
import { finishedFigure } from '../tying/method.js';
import type { KnotClass } from '../words/classes.js';
import { JUDGED_KEYS, type Judged, type JudgedKey } from '../knot/judged.js';
import type { LoadWay } from '../words/classes.js';

export type Evidence = 'computed' | 'tested' | 'judged';

/** One thing known of a knot. */
export interface Known<V> {
  readonly value: V;
  readonly by: Evidence;
  /** What it rests on, one sentence. */
  readonly why: string;
}

export const PLACES = ['in the end', 'in the middle'] as const;
export const HOLDS = ['an object', 'another rope', 'a loop in itself', 'nothing: it stops', 'a bundle'] as const;
export type Place = (typeof PLACES)[number];
export type Holds = (typeof HOLDS)[number];

/** What is known; what is not known is not there. */
export interface Traits {
  readonly place?: Known<Place>;
  readonly holds?: Known<Holds>;
  /** A loop that stays its size, or one that runs. */
  readonly fixed?: Known<boolean>;
  readonly slipped?: Known<boolean>;
  readonly loads?: Known<readonly LoadWay[]>;
  readonly unlikeRopes?: Known<boolean>;
  readonly underLoad?: Known<boolean>;
  readonly oneHand?: Known<boolean>;
  readonly comesUndone?: Known<boolean>;
  readonly staysWhenShaken?: Known<boolean>;
  readonly webbing?: Known<boolean>;
}

const HELD: Readonly<Partial<Record<KnotClass, Holds>>> = {
  hitch: 'an object',
  sling: 'an object',
  bend: 'another rope',
  'loop in the end': 'a loop in itself',
  'loop in mid-rope': 'a loop in itself',
  noose: 'a loop in itself',
  stopper: 'nothing: it stops',
  binding: 'a bundle',
};

const computed = <V>(value: V, why: string): Known<V> => ({ value, by: 'computed', why });

/** What the drawing shows; two ropes joined or a bundle bound is told apart by the entry alone. */
function drawnTraits(knot: KnotDocument, found: Classified): Traits {
  const because = found.because.join(' ');
  const cls = knot.entry.class === 'binding' && found.class === 'bend' ? 'binding' : found.class;
  const holds = HELD[cls];
  const { bights } = kinKnot(knot.name, knot.method);
  const mid = cls === 'loop in mid-rope';
  return {
    ...(cls === 'not classed' ? {} : { place: computed<Place>(mid ? 'in the middle' : 'in the end', because) }),
    ...(holds ? { holds: computed(holds, because) } : {}),
    ...(cls === 'noose'
      ? { fixed: computed(false, because) }
      : cls === 'loop in mid-rope' || cls === 'loop in the end'
        ? { fixed: computed(true, found.undecided ?? because) }
        : {}),
    slipped: computed(
      bights.length > 0 || found.runs === 'tail',
      bights.length > 0 ? 'A step draws a bight through that is no eye.' : because,
    ),
  };
}

/** Everything known of a knot: what its drawing shows, then what was judged of it. */
export function traitsOf(knot: KnotDocument, judged: Judged | undefined): Traits {
  const found = classOf(finishedFigure(knot.method));
  const drawn = found.ok ? drawnTraits(knot, found.value) : {};
  if (!judged) return drawn;
  const said = (key: JudgedKey): Partial<Traits> => {
    const value = judged[key];
    return value === undefined
      ? {}
      : { [key]: { value, by: 'judged', why: judged.because?.[key] ?? 'Common experience with it.' } };
  };
  return { ...Object.assign({}, ...JUDGED_KEYS.map(said)), ...drawn } as Traits;
}

/** Rope in a knot as it is drawn, in diameters: of each rope from its first crossing to its last. */
export const ropeInKnot = (figure: Figure): number =>
  figure.ropes.reduce((sum, rope) => {
    const passages = passagesOf(figure, rope.id);
    const curve = curveOf(rope);
    const [first, last] = [passages[0], passages.at(-1)];
    return first && last ? sum + lengthTo(curve, last.at) - lengthTo(curve, first.at) : sum;
  }, 0);
