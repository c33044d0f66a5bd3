/** What is known of knots that assemblies show: what they are, by their drawing, and where they stand. */
import { NO_FACTS, type KnotFacts } from '@foxtrail/core/assembly';
import type { FigureFile } from '@foxtrail/core';
import { aside } from './aside.js';
import type { Queryable } from './database.js';
import { Kept } from './kept.js';
import { vocabularyOfKnot, wordStock } from './words.js';

/** Facts that are kept as they were computed; those of a knot are a kilobyte or two. */
const FACTS = 2000;

interface ShelfKnot {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly document: FigureFile;
  readonly archived: boolean;
  readonly errors: number | null;
  readonly slug: string | null;
}

const shelfKnots = async (db: Queryable, ids: readonly string[]): Promise<ShelfKnot[]> =>
  (
    await db.query<ShelfKnot>(
      `select k.id, k.name, k.revision, r.document, k.archived_at is not null as archived,
              case when k.counted_by >= 0 then k.errors end as errors, p.slug
         from knot k join revision r on r.knot_id = k.id and r.number = k.revision
         left join publication p on p.knot_id = k.id
        where k.id = any($1::uuid[])`,
      [ids],
    )
  ).rows;

/** Facts that were computed, by what they are of. */
export const keptFacts = (): Kept<KnotFacts> => new Kept<KnotFacts>(FACTS);

/** What is known of knots, each once, in the order in which they are asked for. */
export async function factsOf(db: Queryable, kept: Kept<KnotFacts>, refs: readonly string[]): Promise<KnotFacts[]> {
  const wanted = [...new Set(refs)];
  const { revision: words } = await wordStock(db);
  const ids = wanted.filter((r) => r.startsWith('knot:')).map((r) => r.slice('knot:'.length));
  const shelf = new Map((await shelfKnots(db, ids)).map((k) => [`knot:${k.id}`, k]));
  const ofPattern = async (ref: string): Promise<KnotFacts> => {
    const spoken = await vocabularyOfKnot(db, {});
    const pattern = ref.startsWith('pattern:') ? ref.slice('pattern:'.length) : '';
    return kept.of(`${ref} ${words}`, () => aside('patternFacts', { pattern, words: spoken }));
  };
  const ofKnot = async (ref: string, k: ShelfKnot): Promise<KnotFacts> => {
    const spoken = await vocabularyOfKnot(db, { words: k.document.entry?.words, ropes: k.document.ropes });
    const facts = await kept.of(`${ref} ${k.revision} ${words}`, () =>
      aside('knotFacts', { ref, document: k.document, words: spoken }),
    );
    // Where it stands may change without its drawing.
    return { ...facts, name: k.name, state: k.archived ? 'archived' : 'there', errors: k.errors, slug: k.slug };
  };
  return Promise.all(
    wanted.map((ref) => {
      const own = shelf.get(ref);
      if (own) return ofKnot(ref, own);
      return ref.startsWith('pattern:') ? ofPattern(ref) : Promise.resolve({ ...NO_FACTS, ref });
    }),
  );
}
