/**
 * What is wrong with the ropes of a knot as things: two that are taken for each other, webbing that does not lie flat.
 */
import { isFlat, type OfCordage } from '../figure/cordage.js';
import { isWithinKnot } from '../figure/crossings.js';
import type { Figure } from '../figure/figure.js';
import { bodyOf, lightness, PAPER_LOOK } from '../drawing/look.js';
import { capital } from '../words/inflect.js';
import { ropeWord, timesWord, type Vocabulary } from '../words/vocabulary.js';
import type { LayoutFinding } from './finding.js';

/** Ropes whose lightness, L* of CIELAB, is nearer than this are one grey in print. */
export const TOLD_APART = 15;

/** What is seen of a rope without colour and lightness. */
const textureOf = ({ cordage }: OfCordage, index: number): string =>
  cordage?.colour === undefined && cordage?.construction === undefined
    ? `look ${index % PAPER_LOOK.ropes.length}`
    : `${cordage.construction ?? 'kernmantle'} ${cordage.mark ?? ''}`;

export function ropeFindings(figure: Figure, words: Vocabulary): LayoutFinding[] {
  const out: LayoutFinding[] = [];
  figure.ropes.forEach((rope, i) => {
    for (const [k, other] of figure.ropes.slice(0, i).entries()) {
      // As long as neither is set, the house's looks tell them apart.
      if (!rope.cordage && !other.cordage) continue;
      const [a, b] = [ropeWord(words, k), ropeWord(words, i)];
      const place = { strand: rope.id, at: 0 };
      if (a.toLowerCase() === b.toLowerCase())
        out.push({
          code: 'ropes-alike',
          severity: 'warning',
          title: `Two ropes are both called ${a}`,
          why: 'A text that names one of them may be read of the other.',
          remedy: 'Give one of them another name.',
          place,
        });
      const apart = Math.abs(
        lightness(bodyOf(PAPER_LOOK, k, other.cordage)) - lightness(bodyOf(PAPER_LOOK, i, rope.cordage)),
      );
      if (apart < TOLD_APART && textureOf(other, k) === textureOf(rope, i))
        out.push({
          code: 'ropes-alike',
          severity: 'warning',
          title: `${capital(a)} and ${b} look alike without colour`,
          why: 'Printed in black and white, or seen by a reader who sees few colours, one is taken for the other.',
          remedy: 'Choose a lighter or darker colour for one of them, or another construction.',
          place,
        });
    }
    const flips = isFlat(rope.cordage) ? (rope.flips ?? []) : [];
    const inside = flips.filter((at) => isWithinKnot(figure, { strand: rope.id, at }));
    if (inside.length > 0)
      out.push({
        code: 'webbing-twisted',
        severity: 'warning',
        title: `The webbing is turned over ${timesWord(inside.length)} inside the knot`,
        why: 'Webbing holds by layers that lie flat on each other; over a twist they bear on an edge.',
        remedy: 'Lay it flat all through the knot, and turn it over outside if it must be.',
        place: { strand: rope.id, at: inside[0] as number },
      });
  });
  return out;
}
