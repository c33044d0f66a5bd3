/**
 * What differs between two versions of a knot, in words an author would use: where two have changed one knot, each sees what the other did.
 */
import { layoutsOf, type Layout, type Method } from '../tying/method.js';
import type { KnotDocument } from './document.js';

/** Whether two values say the same, whatever the order of their names; what is undefined is not said. */
function saysTheSame(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  const said = (thing: object): [string, unknown][] => Object.entries(thing).filter(([, v]) => v !== undefined);
  const [x, y] = [said(a), new Map(said(b))];
  return Array.isArray(a) === Array.isArray(b) && x.length === y.size && x.every(([k, v]) => saysTheSame(v, y.get(k)));
}

/** The parts of a layout that authors change one by one. */
const PARTS: readonly (readonly [says: string, of: (layout: Layout) => unknown])[] = [
  ['the drawing', ({ figure, name, passes }) => [figure, name, passes]],
  ['the steps', ({ leaders, halts, finish }) => [leaders, halts, finish ?? []]],
  ['the films', ({ footage }) => footage ?? []],
  ['what is shown beside it', ({ marks, exhibits, dressings }) => [marks ?? [], exhibits ?? [], dressings ?? []]],
];

function methodDiffers(mine: Method, theirs: Method): string[] {
  const [a, b] = [layoutsOf(mine), layoutsOf(theirs)];
  const parts = PARTS.flatMap(([says, of]) => (saysTheSame(a.map(of), b.map(of)) ? [] : [says]));
  const names = new Set([...(mine.reels ?? []), ...(theirs.reels ?? [])].map((r) => r.name));
  const reels = [...names].flatMap((name) => {
    const [own, other] = [mine, theirs].map((m) => m.reels?.find((r) => r.name === name));
    if (!other) return [`the reel “${name}”, only in yours`];
    if (!own) return [`the reel “${name}”, only in the saved one`];
    return saysTheSame(own, other) ? [] : [`the reel “${name}”`];
  });
  return [...parts, ...reels];
}

/** What differs between an author's version of a knot and the saved one; nothing where they say the same. */
export function whatDiffers(mine: KnotDocument, theirs: KnotDocument): readonly string[] {
  return [
    ...(saysTheSame([mine.name, mine.entry], [theirs.name, theirs.entry]) ? [] : ['the entry']),
    ...methodDiffers(mine.method, theirs.method),
    ...(saysTheSame([mine.methodName, mine.others ?? []], [theirs.methodName, theirs.others ?? []])
      ? []
      : ['the other ways to tie it']),
  ];
}
