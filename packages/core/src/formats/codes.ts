/**
 * Codes of a figure as text, in and out: the extended Gauss code and the planar diagram (PD) code.
 */
import type { Figure } from '../figure/figure.js';
import { accept, refuse, type Result } from '../figure/refusal.js';
import { gaussOfPd } from '../placing/embed.js';
import { readMap } from '../topology/planar-map.js';
import { readGauss, type GaussStrand } from '../topology/gauss.js';
import { checkPd, pdOf, type PdCode } from '../topology/pd.js';
import { tangleOf } from '../topology/tangle.js';

/** Longest code read, in characters. */
export const CODE_LIMIT = 20_000;

/** Reads a PD code: quadruples in brackets of any kind, `X[1,5,2,4]` or `[1,5,2,4]`, one a crossing. */
export function readPd(text: string): Result<PdCode> {
  const groups = [...text.matchAll(/[[({]([^[\](){}]*)[\])}]/g)];
  if (groups.length === 0) return refuse('PD code', 'It has no crossing.', 'Write each crossing as [i, j, k, l].');
  const code: number[][] = [];
  for (const [i, group] of groups.entries()) {
    const numbers = (group[1] ?? '').split(/[\s,;]+/).filter((w) => w !== '');
    const odd = numbers.find((n) => !/^\d+$/.test(n));
    if (odd !== undefined)
      return refuse(
        `PD code, crossing ${i + 1}`,
        `“${odd.slice(0, 20)}” is not a whole number.`,
        'Write each crossing as [i, j, k, l].',
      );
    code.push(numbers.map(Number));
  }
  return checkPd(code);
}

/** What a pasted text is. */
export type CodeKind = 'gauss' | 'pd';

export const codeKind = (text: string): CodeKind | undefined =>
  /^[\s(]*[OUou]\s*\d/.test(text) ? 'gauss' : /[[({]\s*\d+\s*,/.test(text) ? 'pd' : undefined;

/** Reads either code as strands, to be laid out. */
export function readCode(text: string): Result<readonly GaussStrand[]> {
  if (text.length > CODE_LIMIT)
    return refuse('code', `It has ${text.length} characters; ${CODE_LIMIT} are the most.`, 'Give a smaller diagram.');
  switch (codeKind(text)) {
    case 'gauss':
      return readGauss(text);
    case 'pd': {
      const read = readPd(text);
      return read.ok ? gaussOfPd(read.value) : read;
    }
    case undefined:
      return refuse('code', 'It is neither an extended Gauss code nor a PD code.', 'Write O1+ U2- … or [1,5,2,4] … .');
  }
}

/**
 * The PD code of a figure as text. Open ropes are closed as their knot is read: each tail is lifted over everything to its standing
 * end. Hosts, and ropes held at both ends, have no such closing: they are refused.
 */
export function pdText(figure: Figure): Result<string> {
  if (figure.ropes.length === 0) return refuse('figure', 'There is no rope on the board.', 'Lay one first.');
  if (figure.hosts.length > 0)
    return refuse(
      'figure',
      'A PD code has closed curves only, and a host is not one.',
      'Use the extended Gauss code, or take the host out.',
    );
  const open = figure.ropes.filter((r) => !r.closed);
  const stuck = open.find((r) => !(r.ends[0] === 'standing' && r.ends[1] === 'tail'));
  if (stuck)
    return refuse(`rope ${stuck.id}`, 'It has no standing part and tail to join.', 'Use the extended Gauss code.');
  const map = readMap(figure);
  if (!map.ok) return map;
  const bare: Figure = { ...figure, ropes: figure.ropes.map(({ eyes: _eyes, ...r }) => r) };
  const tangle = tangleOf(bare, new Map(open.map((r) => [r.id, 'over' as const])));
  const code = pdOf(
    tangle,
    open.map((r): [string, string] => [`${r.id}.s`, `${r.id}.t`]),
  );
  return accept(code.map((c) => `[${c.join(',')}]`).join(' '));
}
