/**
 * Measurements of identity: signatures, the mistake atlas, and looking a knot up among 30 and among 10,000.
 */
import { matchesOf } from '../../packages/server/src/identity.js';
import { migrate, openPool } from '../../packages/server/src/database.js';
import {
  atlasOf,
  crossingsOf,
  KeyBook,
  keyOf,
  keysOf,
  signatureOf,
  weaveFigure,
  type Figure,
  type NamedKeys,
  type Point,
} from '../../packages/core/src/index.js';
import { patternKeys, patterns } from '../../packages/pattern-book/src/index.js';
import { pino } from 'pino';

const median = (list: readonly number[]): number =>
  Math.round(([...list].sort((a, b) => a - b)[list.length >> 1] as number) * 100) / 100;

async function timed(work: () => unknown, runs = 5): Promise<number> {
  const all: number[] = [];
  for (let i = 0; i < runs; i += 1) {
    const began = performance.now();
    await work();
    all.push(performance.now() - began);
  }
  return median(all);
}

/** A spring laid along the board whose coils cross their neighbours, its weave as a fixed sequence of coin tosses. */
export function spring(loops: number): Figure {
  const points: Point[] = [[-12, 1]];
  for (let i = 0; i <= loops * 6; i += 1) {
    const turn = (i / 6) * 2 * Math.PI;
    points.push([i * 0.45 + 4 * Math.cos(turn), 4 * Math.sin(turn)]);
  }
  points.push([loops * 2.7 + 16, 1]);
  let toss = 12345;
  return weaveFigure(
    { ropes: [{ id: 'a', points, curve: 'smooth', closed: false, ends: ['standing', 'tail'], weave: '' }], hosts: [] },
    () => (toss = (toss * 1103515245 + 12345) % 2147483648) % 65536 < 32768,
  );
}

export function springWith(crossings: number): Figure {
  for (let n = 1; ; n += 1) {
    const figure = spring(n);
    if (crossingsOf(figure).length >= crossings) return figure;
  }
}

/** The same lines woven over and under in turn: nothing of it can be taken out, so everything must be expanded. */
const alternating = (f: Figure): Figure => ({
  ...f,
  ropes: f.ropes.map((r) => ({ ...r, weave: 'OU'.repeat(r.weave.length / 2) })),
});

/** The same figure as a new object, so that nothing remembered helps. */
const anew = (f: Figure): Figure => ({ ropes: f.ropes.map((r) => ({ ...r })), hosts: [...f.hosts] });

/** Made-up keys of as many knots; the last has the keys given. */
function manyKeys(count: number, last: Omit<NamedKeys, 'id' | 'name'>): NamedKeys[] {
  return Array.from({ length: count }, (_, i): NamedKeys => {
    const made = (part: string): string => keyOf(`${part} ${i}`);
    const own = {
      key: made('k'),
      mirrorKey: made('m'),
      lays: [made('l'), made('n')],
      body: made('b'),
      mirrorBody: made('c'),
    };
    return { id: `knot-${i}`, name: `Knot ${i}`, ...(i === count - 1 ? last : own) };
  });
}

/** The look-up by stored keys in PostgreSQL, among as many knots. */
async function stored(url: string, count: number): Promise<object> {
  const pool = openPool(url, pino({ level: 'silent' }));
  try {
    await migrate(pool);
    const found = keysOf(patterns()[0]!.knot.method.figure);
    if (!found.ok) throw new Error(found.reason);
    const account = await pool.query<{ id: string }>(
      "insert into account (name, role, password_hash) values ('bench', 'author', 'x') returning id",
    );
    const rows = manyKeys(count, found.value);
    for (let i = 0; i < rows.length; i += 500)
      await pool.query(
        `insert into knot (name, class, family, use_grade, revision, errors, warnings, crossings, steps, updated_by,
                           signature_key, mirror_key, body_key, mirror_body_key, lay_keys, verdict_state)
         select r->>'name', 'stopper', '', 'light duty', 1, 0, 0, 3, 1, $2, r->>'key', r->>'mirrorKey', r->>'body', r->>'mirrorBody',
                array(select jsonb_array_elements_text(r->'lays')), 'unclaimed' from jsonb_array_elements($1::jsonb) as r`,
        [JSON.stringify(rows.slice(i, i + 500)), account.rows[0]!.id],
      );
    await pool.query('analyze knot');
    const keys = { ...found.value, lays: [...found.value.lays] };
    const matches = await matchesOf(pool, keys);
    return { knots: count, matches: matches.length, ms: await timed(() => matchesOf(pool, keys), 15) };
  } finally {
    await pool.end();
  }
}

export async function identityBench(databaseUrl: string): Promise<object> {
  const bookMs = await timed(() => patternKeys(), 1);
  const all = patterns().map((p) => p.knot.method.figure);
  const signaturesMs = await timed(() => all.map((f) => signatureOf(anew(f))), 3);
  const big = [24, 45, 100, 200].map((wanted) => {
    const figure = anew(alternating(springWith(wanted)));
    const began = performance.now();
    const found = signatureOf(figure);
    return {
      crossings: crossingsOf(figure).length,
      ms: Math.round(performance.now() - began),
      answer: found.ok ? 'signature' : found.reason,
    };
  });
  const figure = alternating(springWith(24));
  const atlasMs = await timed(() => atlasOf(anew(figure), patternKeys()), 5);
  const own = keysOf(all[0]!);
  const signature = signatureOf(all[0]!);
  if (!own.ok || !signature.ok) throw new Error('the first pattern has no signature');
  const many = new KeyBook(manyKeys(10_000, own.value));
  return {
    patternBook: { patterns: patterns().length, keysMs: bookMs, allSignaturesMs: signaturesMs },
    signatures: big,
    atlas: { crossings: crossingsOf(figure).length, ms: atlasMs },
    identify: {
      amongPatterns: { knots: patterns().length, ms: await timed(() => patternKeys().matches(signature.value), 15) },
      inMemory: { knots: 10_000, ms: await timed(() => many.matches(signature.value), 15) },
      inPostgreSql: await stored(databaseUrl, 10_000),
    },
    memoryMb: Math.round(process.memoryUsage().rss / 1e6),
  };
}
