/**
 * Cards: a knot as the shelf shows it, read from the columns that are computed when it is saved.
 */
import { SHELF_PAGE, type CardVerdict, type KnotCard, type KnotList } from '@foxtrail/contract';
import { AskedTogether } from './asked-together.js';
import type { Queryable } from './database.js';
import { notFound } from './problem.js';
import { anywhere, KNOT_MATCHES } from './search.js';

export interface CardRow {
  id: string;
  name: string;
  aliases: string[];
  class: KnotCard['class'];
  family: string;
  use_grade: KnotCard['useGrade'];
  revision: number;
  errors: number;
  warnings: number;
  examined: boolean;
  crossings: number;
  steps: number;
  archived: boolean;
  updated_at: Date;
  updated_by: string;
  slug: string | null;
  published_revision: number | null;
  verdict_state: CardVerdict['state'] | null;
  verdict: string | null;
  left_hand_of: string | null;
  left_hand_of_name: string | null;
  follows: boolean;
}

/** Kinships stated of a knot that its present drawing refutes: a warning each, see `refutedKin`. */
const REFUTED = `
  (select count(*)::int from kin_relation q left join knot f on f.id = q.from_knot
    where q.to_knot = k.id and q.proof_state = 'refuted' and q.tried_to = k.revision
      and q.tried_from is not distinct from f.revision and f.archived_at is null)`;

const CARD = `
  select k.id, k.name, k.class, k.family, k.use_grade, k.revision, k.errors, k.warnings + ${REFUTED} as warnings, k.counted_by >= 0 as examined, k.crossings, k.steps,
         k.archived_at is not null as archived, k.updated_at, a.name as updated_by, p.slug, p.revision as published_revision, k.verdict_state, k.verdict,
         k.left_hand_of, o.name as left_hand_of_name, k.follows,
         coalesce((select array_agg(n.name order by n.position) from knot_alias n where n.knot_id = k.id), '{}') as aliases
    from knot k join account a on a.id = k.updated_by left join publication p on p.knot_id = k.id left join knot o on o.id = k.left_hand_of`;

export const toCard = (r: CardRow): KnotCard => ({
  id: r.id,
  name: r.name,
  aliases: r.aliases,
  class: r.class,
  family: r.family,
  useGrade: r.use_grade,
  state: r.slug !== null ? 'published' : r.examined && r.errors + r.warnings === 0 && r.steps > 0 ? 'proofed' : 'draft',
  revision: r.revision,
  errors: r.errors,
  warnings: r.warnings,
  examined: r.examined,
  crossings: r.crossings,
  steps: r.steps,
  archived: r.archived,
  updatedAt: r.updated_at.toISOString(),
  updatedBy: r.updated_by,
  slug: r.slug,
  verdict: r.verdict_state === null ? null : { state: r.verdict_state, headline: r.verdict ?? '' },
  leftHandOf:
    r.left_hand_of === null ? null : { id: r.left_hand_of, name: r.left_hand_of_name ?? '', follows: r.follows },
});

export interface ShelfQuery {
  /** A part of a name; empty: every knot. */
  readonly q: string;
  readonly archived: boolean;
  readonly from: number;
  readonly most: number;
}

const thereIf = (archived: boolean): string => `k.archived_at is ${archived ? 'not null' : 'null'}`;

/** A page of the shelf by its order: its knots are found first, and only theirs are the costly columns. */
const pageOf = (before: string, hits: string, total: string, from: number, most: number): string =>
  `with ${before} page as (
     select * from ${hits} order by score desc, updated_at desc, id limit ${most} offset ${from})
   select ${total}::int as total, card.*
     from (select) as one left join (page join (${CARD}) as card using (id)) on true
    order by page.score desc, page.updated_at desc, id`;

/** The shelf, page by page: what was saved last first, or what fits best. */
export class Shelf {
  /** How many there are is counted once for all who ask at the same time: it takes longer than a page. */
  private readonly total: Readonly<Record<'true' | 'false', AskedTogether<number>>>;

  constructor(private readonly db: Queryable) {
    const counting = (archived: boolean): AskedTogether<number> =>
      new AskedTogether(async () => {
        const found = await db.query<{ total: number }>(
          `select count(*)::int as total from knot k where ${thereIf(archived)}`,
        );
        return found.rows[0]?.total ?? 0;
      });
    this.total = { true: counting(true), false: counting(false) };
  }

  async list(asked: ShelfQuery): Promise<KnotList> {
    const [rows, total] = await Promise.all(
      asked.q === '' ? [this.whole(asked), this.total[`${asked.archived}`].now()] : [this.matching(asked)],
    );
    return { knots: rows.filter(isThere).map(toCard), total: total ?? rows[0]?.total ?? 0 };
  }

  private whole({ archived, from, most }: ShelfQuery): Promise<PagedRow[]> {
    const hits = `(select k.id, 0 as score, k.updated_at from knot k where ${thereIf(archived)}) as hits`;
    return this.page(`shelf ${archived} ${from} ${most}`, pageOf('', hits, '0', from, most), []);
  }

  private matching({ q, archived, from, most }: ShelfQuery): Promise<PagedRow[]> {
    const found = `select k.id, m.score, k.updated_at from (${KNOT_MATCHES}) as m join knot k on k.id = m.id where ${thereIf(archived)}`;
    const text = pageOf(`hits as materialized (${found}),`, 'hits', '(select count(*) from hits)', from, most);
    return this.page(`search ${archived} ${from} ${most}`, text, [q.toLowerCase(), anywhere(q)]);
  }

  /** A first page of the usual length is planned once: that takes as long as reading it. */
  private async page(name: string, text: string, values: string[]): Promise<PagedRow[]> {
    const named = name.endsWith(` 0 ${SHELF_PAGE}`) ? { name } : {};
    return (await this.db.query<PagedRow>({ ...named, text, values })).rows;
  }
}

/** A row of a page; one without a knot only says how many there are. */
type PagedRow = { readonly total: number } & (CardRow | { readonly id: null });
const isThere = (row: PagedRow): row is PagedRow & CardRow => row.id !== null;

/** The cards of knots, in the order of their ids; an id without a knot is left out. */
export async function cardsOf(db: Queryable, ids: readonly string[]): Promise<KnotCard[]> {
  if (ids.length === 0) return [];
  const found = await db.query<CardRow>(
    `select card.* from unnest($1::uuid[]) with ordinality as wanted (id, place) join (${CARD}) as card using (id)
      order by wanted.place`,
    [ids],
  );
  return found.rows.map(toCard);
}

/** A knot's row as the shelf needs it. */
export async function cardRow(db: Queryable, id: string): Promise<CardRow> {
  const found = await db.query<CardRow>({ name: 'card', text: `${CARD} where k.id = $1`, values: [id] });
  const row = found.rows[0];
  if (!row) throw notFound('knot');
  return row;
}
