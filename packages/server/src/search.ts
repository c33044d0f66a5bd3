/**
 * Search by any name: a knot's own, its aliases, what any school calls it, and what is misheard or misspelt for those.
 */
import type { Found } from '@foxtrail/contract';
import type { Queryable } from './database.js';

/** A text as a pattern that matches it anywhere. */
export const anywhere = (q: string): string => `%${q.toLowerCase().replace(/[\\%_]/g, '\\$&')}%`;

/** With so many that hold the words themselves, those that are only spelt like them are not asked for. */
const ENOUGH = 24;

/** Names that hold the words score by where they hold them, above those that are only spelt like them. */
const literal = (of: string): string =>
  `case when ${of}.folded = $1 then 1.2 when starts_with(${of}.folded, $1) then 1.1 else 1.0 end`;
const alike = (of: string): string => `similarity(${of}.folded, $1)`;

/**
 * Knots that match `$1` (lower case) by a name of theirs, with a score and the name; `$2` is `anywhere($1)`. Every branch is answered by a
 * trigram index; misspellings are looked for only when few names hold the words.
 */
export const KNOT_MATCHES = `
  with literal as materialized (
    select k.id, ${literal('k')} as score, k.name from knot k where k.folded like $2
    union all
    select n.knot_id, ${literal('n')}, n.name from knot_alias n where n.folded like $2
    union all
    select k.id, ${literal('l')} - 0.01, l.text from label l join knot k on k.concept_id = l.concept_id where l.folded like $2
  ), few as materialized (
    select count(*) < ${ENOUGH} as few from literal
  )
  select distinct on (id) id, score, name from (
    select * from literal
    union all
    select k.id, ${alike('k')}, k.name from knot k where (select few from few) and k.folded % $1
    union all
    select n.knot_id, ${alike('n')}, n.name from knot_alias n where (select few from few) and n.folded % $1
    union all
    select k.id, ${alike('l')} - 0.01, l.text from label l join knot k on k.concept_id = l.concept_id
     where (select few from few) and l.folded % $1
  ) as named order by id, score desc`;

/** Concepts that match in the same way. */
const WORD_MATCHES = `
  with literal as materialized (
    select l.concept_id, ${literal('l')} as score, l.text from label l where l.folded like $2
  )
  select distinct on (concept_id) concept_id, score, text as by from (
    select * from literal
    union all
    select l.concept_id, ${alike('l')}, l.text from label l
     where (select count(*) from literal) < ${ENOUGH} and l.folded % $1
  ) as labelled order by concept_id, score desc`;

/** Most that is found at once. */
const FOUND_LIMIT = 24;

const SEARCH = `
  select kind, id, name, case when lower(by) = lower(name) then null else by end as by from (
    select * from (
      select 'knot' as kind, k.id::text, k.name, m.name as by, m.score
        from (${KNOT_MATCHES}) as m join knot k on k.id = m.id where k.archived_at is null
      union all
      select 'word', w.concept_id, coalesce(hw.text, p.text, w.concept_id), w.by, w.score - 0.005 from (${WORD_MATCHES}) as w
      left join house_word hw on hw.concept_id = w.concept_id
      left join label p on p.concept_id = w.concept_id and p.status = 'preferred'
        and p.school_id = coalesce((select words_school from house), 'workshop')
    ) as hits order by score desc, name, id limit ${FOUND_LIMIT}
  ) as best order by score desc, name, id`;

export async function search(db: Queryable, q: string): Promise<Found['found']> {
  const words = q.toLowerCase();
  const found = await db.query<Found['found'][number]>(SEARCH, [words, anywhere(q)]);
  return found.rows;
}
