/**
 * Search by any name: a knot's own, its aliases, what any school calls it, and what is misheard or misspelt for those.
 */
import type { Found } from '@foxtrail/contract';
import type { Queryable } from './database.js';

/** A text as a pattern that matches it anywhere. */
export const anywhere = (q: string): string => `%${q.toLowerCase().replace(/[\\%_]/g, '\\$&')}%`;

/**
 * Knots that match `$1` (lower case) by a name of theirs, with a score between 0 and 1 and the name. `$2` is `anywhere($1)`. Names that hold
 * the words score above those that are only spelt like them; every branch is answered by a trigram index.
 */
export const KNOT_MATCHES = `
  select id, max(score) as score, (array_agg(name order by score desc))[1] as name from (
    select k.id, k.name, ${score('k.name')} as score from knot k where lower(k.name) % $1 or lower(k.name) like $2
    union all
    select n.knot_id, n.name, ${score('n.name')} from knot_alias n where lower(n.name) % $1 or lower(n.name) like $2
    union all
    select k.id, l.text, ${score('l.text')} - 0.01 from label l join knot k on k.concept_id = l.concept_id
     where lower(l.text) % $1 or lower(l.text) like $2
  ) as named group by id`;

function score(name: string): string {
  return `case when lower(${name}) = $1 then 1.2 when lower(${name}) like $2 then 1 + similarity(lower(${name}), $1) / 10 else similarity(lower(${name}), $1) end`;
}

/** Most that is found at once. */
const FOUND_LIMIT = 24;

export async function search(db: Queryable, q: string): Promise<Found['found']> {
  const words = q.toLowerCase();
  const found = await db.query<Found['found'][number]>(
    `select kind, id, name, case when lower(by) = lower(name) then null else by end as by from (
       select 'knot' as kind, k.id::text, k.name, m.name as by, m.score
         from (${KNOT_MATCHES}) as m join knot k on k.id = m.id where k.archived_at is null
       union all
       select 'word', w.concept_id, coalesce(hw.text, p.text, w.concept_id), w.by, w.score - 0.005 from (
         select concept_id, max(score) as score, (array_agg(text order by score desc))[1] as by from (
           select l.concept_id, l.text, ${score('l.text')} as score from label l where lower(l.text) % $1 or lower(l.text) like $2
         ) as labelled group by concept_id
       ) as w
       left join house_word hw on hw.concept_id = w.concept_id
       left join label p on p.concept_id = w.concept_id and p.status = 'preferred'
         and p.school_id = coalesce((select words_school from house), 'workshop')
     ) as hits order by score desc, name, id limit ${FOUND_LIMIT}`,
    [words, anywhere(q)],
  );
  return found.rows;
}
