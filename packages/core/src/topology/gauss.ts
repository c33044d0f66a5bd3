/**
 * Extended Gauss code: for every strand the crossings it passes, in the order of its trail, each with `O` or `U`, its number and its
 * sign: `O1+ U2+ O3+ U1+ O2+ U3+` is a trefoil. Several strands are separated by `/`; a closed one stands in brackets, and one
 * that crosses nothing is `-`. Crossings with
 * hosts stand in the hosts' own strands, so that the code says where on the host they are.
 */
import { passagesOf } from '../figure/crossings.js';
import type { Figure } from '../figure/figure.js';
import { accept, refuse, type Result } from '../figure/refusal.js';

export interface GaussPassage {
  readonly crossing: number;
  readonly over: boolean;
  readonly sign: 1 | -1;
}

export interface GaussStrand {
  readonly closed: boolean;
  readonly passages: readonly GaussPassage[];
}

/** The code of a figure: its ropes, then its hosts. */
export function gaussOf(figure: Figure): GaussStrand[] {
  const strand = (id: string, closed: boolean): GaussStrand => ({
    closed,
    passages: passagesOf(figure, id).map((p) => ({ crossing: p.crossing.number, over: p.over, sign: p.crossing.sign })),
  });
  return [
    ...figure.ropes.map((r) => strand(r.id, r.closed)),
    ...figure.hosts.map((h) => strand(h.id, h.kind === 'ring' || h.kind === 'carabiner')),
  ];
}

/** Stands for a strand that crosses nothing. */
const NOTHING = '-';

export const sayGauss = (strands: readonly GaussStrand[]): string =>
  strands
    .map(({ closed, passages }) => {
      const text = passages.map((p) => `${p.over ? 'O' : 'U'}${p.crossing}${p.sign > 0 ? '+' : '-'}`).join(' ');
      const all = passages.length === 0 ? NOTHING : text;
      return closed ? `(${all})` : all;
    })
    .join(' / ');

/** The extended Gauss code of a figure, as text. */
export const gaussText = (figure: Figure): string => sayGauss(gaussOf(figure));

/** Most crossings read from a code. */
export const GAUSS_LIMIT = 300;

/** Reads an extended Gauss code. Bad input is refused with the word it is about. */
export function readGauss(text: string): Result<readonly GaussStrand[]> {
  const strands: GaussStrand[] = [];
  const seen = new Map<number, GaussPassage[]>();
  for (const [s, part] of text.split(/[/\n]/).entries()) {
    const trimmed = part.trim();
    if (trimmed === '' && s > 0) continue;
    const closed = /^\(.*\)$/s.test(trimmed);
    const body = closed ? trimmed.slice(1, -1) : trimmed;
    if (!/^[OUou0-9+\-\s,]*$/.test(body)) {
      const odd = /[^OUou0-9+\-\s,]/.exec(body)?.[0] ?? '';
      return refuse(
        `strand ${s + 1}`,
        `“${odd}” does not belong in a Gauss code.`,
        'Write each passage as O or U, a number, and + or −: O1+ U2-.',
      );
    }
    const words = body.trim() === NOTHING ? [] : (body.match(/[OUou]\s*\d+\s*[+-]?|\S/g) ?? []);
    const passages: GaussPassage[] = [];
    for (const [i, word] of words.entries()) {
      const parts = /^([OUou])\s*(\d+)\s*([+-])$/.exec(word);
      if (word === ',') continue;
      const place = `strand ${s + 1}, passage ${i + 1}`;
      if (!parts)
        return refuse(
          place,
          `“${word}” is not a passage with its sign.`,
          'Write O or U, a number, and + or −: O1+ U2-.',
        );
      const passage: GaussPassage = {
        over: parts[1]?.toUpperCase() === 'O',
        crossing: Number(parts[2]),
        sign: parts[3] === '+' ? 1 : -1,
      };
      passages.push(passage);
      seen.set(passage.crossing, [...(seen.get(passage.crossing) ?? []), passage]);
    }
    strands.push({ closed, passages });
  }
  if (strands.every((s) => s.passages.length === 0))
    return refuse('Gauss code', 'It has no passage.', 'Write each as O or U, a number, and + or −: O1+ U2-.');
  if (seen.size > GAUSS_LIMIT)
    return refuse(
      'Gauss code',
      `It has ${seen.size} crossings; ${GAUSS_LIMIT} are the most.`,
      'Give a smaller diagram.',
    );
  for (const [n, both] of seen) {
    const place = `crossing ${n}`;
    if (both.length !== 2)
      return refuse(
        place,
        `It is passed ${both.length === 1 ? 'once' : `${both.length} times`}.`,
        'Every crossing is passed exactly twice.',
      );
    if (both[0]?.over === both[1]?.over)
      return refuse(place, 'Both passages say the same.', 'One is over (O), the other under (U).');
    if (both[0]?.sign !== both[1]?.sign)
      return refuse(place, 'Its two signs differ.', 'Give both passages the sign of the crossing.');
  }
  return accept(strands);
}
