/**
 * What can be said of a knot apart from its drawing, each fact comparable with another knot's and sayable in an author's words.
 */
import { remembered } from '../ground/remembered.js';
import { roundFrom } from '../ground/ring.js';
import { passagesOf } from '../figure/crossings.js';
import type { Figure } from '../figure/figure.js';
import type { Result } from '../figure/refusal.js';
import { timesWord } from '../words/vocabulary.js';
import { windingAbout } from '../dressing/winding.js';
import { simplify } from '../topology/simplify.js';
import { skeinTerms } from '../topology/skein.js';
import { closedStrands, linkingNumber, withoutStrand } from '../topology/strands.js';
import { mirror } from '../topology/views.js';
import type { Tangle } from '../topology/tangle.js';
import { liftedTangles, orDecline, signatureOf } from './signature.js';

export type FactName =
  'ropes' | 'hosts' | 'eyes' | 'order of the ends' | 'crossings' | 'turns' | 'strands by themselves' | 'links' | 'hand';

export interface Fact {
  readonly name: FactName;
  /** Facts of two figures agree when their values are equal. */
  readonly value: string;
  /** A verb phrase about one figure: “winds the spar twice the same way”. */
  readonly phrase: string;
}

const counted = (n: number, one: string, many = `${one}s`): string =>
  `${n === 0 ? 'no' : n === 1 ? 'one' : String(n)} ${n === 1 ? one : many}`;

/** How often each rope goes round each open host, full turns. */
function turns(figure: Figure): Fact[] {
  const open = figure.hosts.filter((h) => h.kind !== 'ring' && h.kind !== 'carabiner');
  const list = open.flatMap((h) =>
    figure.ropes
      .filter((r) => passagesOf(figure, h.id).some((p) => p.other.strand === r.id))
      .map((r) => ({ kind: h.kind, full: Math.floor(Math.abs(windingAbout(figure, r.id, h.id))) })),
  );
  if (list.length === 0) return [];
  const phrase = list
    .map(({ kind, full }) =>
      full === 0 ? `has windings about the ${kind} that cancel` : `winds the ${kind} ${timesWord(full)} the same way`,
    )
    .join(' and ');
  return [
    {
      name: 'turns',
      value: list
        .map((t) => `${t.kind}${t.full}`)
        .sort()
        .join(),
      phrase,
    },
  ];
}

const ROLE_WORDS: Readonly<Record<string, string>> = { s: 'standing', t: 'tail', e: 'eye', h: 'host' };

/** The order in which the ends leave the knot as it lies, read from any of them, either way round. */
function orderOfEnds(held: Tangle): Fact {
  const roles = held.rim.map((p) => p.role);
  const n = roles.length;
  const readings = roles.flatMap((_, i) =>
    ([1, -1] as const).map((way) =>
      roundFrom(i, way, n)
        .map((k) => roles[k] as string)
        .join(''),
    ),
  );
  const value = readings.sort().at(-1) ?? '';
  return {
    name: 'order of the ends',
    value,
    phrase: `has its ends in the order ${Array.from(value, (r) => ROLE_WORDS[r]).join(', ')}`,
  };
}

/** Each rope strand by itself, the others taken out: knotted or plain. */
export function strandsAlone(
  tangle: Tangle,
): { readonly strand: number; readonly roles: string; readonly knotted: boolean }[] {
  const ofRope = [...new Set(tangle.rim.filter((p) => p.role !== 'h').map((p) => p.strand))];
  const all = [...new Set(tangle.rim.map((p) => p.strand)), ...closedStrands(tangle)];
  return ofRope.map((strand) => {
    const alone = all.filter((s) => s !== strand).reduce(withoutStrand, tangle);
    const poly = skeinTerms(alone)[0]?.poly;
    return {
      strand,
      roles: tangle.rim
        .filter((p) => p.strand === strand)
        .map((p) => p.role)
        .sort()
        .join(''),
      knotted: poly?.coefficients.length !== 1,
    };
  });
}

const STRAND_WORDS: Readonly<Record<string, string>> = {
  es: 'the standing part’s strand',
  et: 'the tail’s strand',
  st: 'the rope',
  ee: 'the strand between the eyes',
  ss: 'the rope',
};

function alone(tangle: Tangle): Fact[] {
  const list = strandsAlone(tangle);
  if (list.length < 2) return [];
  const knotted = list.filter((s) => s.knotted).map((s) => STRAND_WORDS[s.roles] ?? 'a strand');
  const phrase =
    knotted.length === 0
      ? 'has no strand that is knotted by itself'
      : knotted.length === list.length
        ? 'has every strand knotted by itself'
        : `has ${knotted.join(' and ')} knotted by ${knotted.length === 1 ? 'itself' : 'themselves'} and the rest plain`;
  return [
    {
      name: 'strands by themselves',
      value: list
        .map((s) => `${s.roles}${s.knotted ? 1 : 0}`)
        .sort()
        .join(),
      phrase,
    },
  ];
}

function links(tangle: Tangle): Fact[] {
  const closed = closedStrands(tangle);
  if (closed.length < 2) return [];
  const list = closed.flatMap((a, i) => closed.slice(i + 1).map((b) => Math.abs(linkingNumber(tangle, a, b)))).sort();
  return [{ name: 'links', value: list.join(), phrase: `has closed ropes that link ${list.join(', ')} times` }];
}

/** The facts of a figure, or why there are none. */
export const factsOf = remembered((figure: Figure): Result<readonly Fact[]> => {
  const signature = signatureOf(figure);
  return signature.ok
    ? orDecline((): readonly Fact[] => {
        const { tangles, held } = liftedTangles(figure);
        const first = tangles[0] as Tangle;
        const eyes = figure.ropes.reduce((n, r) => n + (r.eyes?.length ?? 0), 0);
        const least = simplify(held).crossings;
        const other = signatureOf(mirror(figure));
        const chiral = other.ok && other.value.key !== signature.value.key;
        return [
          { name: 'ropes', value: String(figure.ropes.length), phrase: `has ${counted(figure.ropes.length, 'rope')}` },
          {
            name: 'hosts',
            value: figure.hosts
              .map((h) => h.kind)
              .sort()
              .join(),
            phrase:
              figure.hosts.length === 0
                ? 'is tied to nothing'
                : `is tied to ${figure.hosts.map((h) => `a ${h.kind}`).join(' and ')}`,
          },
          {
            name: 'eyes',
            value: String(eyes),
            phrase:
              eyes === 0
                ? 'has no loop that stays'
                : eyes === 1
                  ? 'has one loop that stays'
                  : `has ${eyes} loops that stay`,
          },
          orderOfEnds(held),
          { name: 'crossings', value: String(least), phrase: `can be laid with ${counted(least, 'crossing')}` },
          ...turns(figure),
          ...alone(first),
          ...links(first),
          {
            name: 'hand',
            value: chiral ? 'handed' : 'none',
            phrase: chiral ? 'has a left and a right hand' : 'is its own mirror image',
          },
        ];
      })
    : signature;
});
