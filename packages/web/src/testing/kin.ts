/**
 * A small library for web unit tests of kin: two knots, two families, a refuted relation and a proved one of the book.
 */
import type { Kin, KinRelation } from '@foxtrail/contract';

const id = (n: number): string => `00000000-0000-4000-8000-00000000000${n}`;
export const [REEF, GRANNY, FLAT, ROUND] = [id(1), id(2), id(3), id(4)] as const;
export const relation = (more: Partial<KinRelation> = {}): KinRelation => ({
  id: id(5),
  from: `knot:${REEF}`,
  to: `knot:${GRANNY}`,
  kind: 'mirrored',
  turns: 1,
  origin: 'stated',
  judged: null,
  proof: { state: 'refuted', compared: 'Mirrored, it is not.' },
  ...more,
});
export const relationId = id;
export const KIN: Kin = {
  families: [
    { id: FLAT, name: 'Flat knots', parent: null },
    { id: ROUND, name: 'Round knots', parent: FLAT },
  ],
  knots: [
    { id: REEF, name: 'Our reef', class: 'binding', family: FLAT, revision: 1, pattern: 'reef', wrongWay: false },
    { id: GRANNY, name: 'Granny', class: 'binding', family: ROUND, revision: 1, pattern: null, wrongWay: true },
  ],
  relations: [
    relation(),
    relation({
      id: id(6),
      from: 'pattern:reef',
      to: 'pattern:thief',
      kind: 'ends exchanged',
      origin: 'book',
      proof: { state: 'proved', compared: 'Ends exchanged, it is.' },
    }),
  ],
};
