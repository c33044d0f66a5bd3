/**
 * The demo data: the kite yard Larkmoor, all made up. Its knots are figure files, taken in by the same import type { Account } from '@foxtrail/contract';
import as anyone's.
 */
import { readKnotText, type HousePractice, type KinKind, type WordChoice } from '@foxtrail/core';
import { FILM_PIECE, type Account } from '@foxtrail/contract';
import { KEPT_KINDS } from '@foxtrail/contract/ropes';
import { courseSchema } from '@foxtrail/core/course';
import { personSchema, planSchema, pullTestSchema, stockRopeSchema, thingSchema } from '@foxtrail/core/ropes';
import { contentsName } from '@foxtrail/core/footage';
import { readFile } from 'node:fs/promises';
import { Readable } from 'node:stream';
import type pg from 'pg';
import * as z from 'zod';
import { ensureAccount } from './accounts.js';
import { beginSession, accountOf } from './sign-in.js';
import { beginFilm, takeFilm, takePiece } from './films.js';
import { changeHouse, houseRules } from './house.js';
import { keepThings, KEPT_TABLES } from './kept-rows.js';
import { stateKin } from './kin.js';
import { recordInspection } from './inspections.js';
import { createKnot } from './knots.js';
import { makeClass } from './classes.js';
import { publishCourse } from './course-publications.js';
import { keptFacts } from './knot-facts.js';
import { LessonReader } from './lesson-facts.js';
import { publishKnot } from './publications.js';
import { refused } from './problem.js';
import { chooseWords, wordStock } from './words.js';

/** Made-up sign-ins, for a look round on one's own machine. */
export const DEMO_SIGN_INS = [
  { name: 'Wren Tallow', password: 'estuary-kites', role: 'owner' },
  { name: 'Moss Hartley', password: 'second-pair-of-eyes', role: 'reviewer' },
] as const;

/** In the order in which they are made; the shelf shows the last first. */
export const DEMO_FILES = [
  'granny.json',
  'false-bowline.json',
  'rolling-hitch.json',
  'taut-line-hitch.json',
  'water-knot.json',
  'sheet-bend.json',
  'bowline.json',
  'reef.json',
  'clove-hitch.json',
  'figure-eight.json',
  'overhand.json',
] as const;
/** What the kite yard says: the Workshop’s words, and its own for what it handles every day. */
const LARKMOOR_WORDS: WordChoice = { school: 'workshop', own: { sling: 'kite strop', post: 'ground anchor' } };
/** How the kite yard does it: the Workshop's rules, but for what its lines and spars ask. */
const LARKMOOR_TAIL = { diameters: 8, millimetres: 60, palms: 0 };
const LARKMOOR_PRACTICE: HousePractice = {
  school: 'workshop',
  changes: {
    'tail-light-duty': { value: LARKMOOR_TAIL, reason: 'Kite lines are thin: longer tails catch in the bridles.' },
    'tail-load-bearing': { value: LARKMOOR_TAIL, reason: 'Every knot is looked at before each flight.' },
    'clove-alone': { value: 'trusted alone', reason: 'The spars are wrapped in leather, where it does not creep.' },
  },
};
/** What the kite yard states of its own knots; the last is what a hurried hand once wrote down, and the core refutes it. */
const LARKMOOR_KIN: readonly (readonly [from: string, to: string, kind: KinKind, why: string | null])[] = [
  ['reef.json', 'granny.json', 'mistaken for', 'The second half is tied the same way round as the first.'],
  ['clove-hitch.json', 'rolling-hitch.json', 'one more turn', null],
  ['reef.json', 'granny.json', 'mirrored', null],
];
const DRAFTS = new Set<string>(['overhand.json', 'rolling-hitch.json', 'water-knot.json']);

/** Films that its knots show, by the stand-in camera (`npm run demo-film`). */
const DEMO_FILMS = ['figure-eight.webm'] as const;

/** Takes a film as it would be sent. */
async function takeDemoFilm(pool: pg.Pool, file: string): Promise<void> {
  const bytes = await readFile(new URL(`../../../demo/films/${file}`, import.meta.url));
  const contents = contentsName();
  contents.take(bytes);
  const film = contents.name();
  await beginFilm(pool, film, bytes.length);
  for (let number = 0; number * FILM_PIECE < bytes.length; number += 1)
    await takePiece(
      pool,
      film,
      number,
      Readable.from([bytes.subarray(number * FILM_PIECE, (number + 1) * FILM_PIECE)]),
    );
  await takeFilm(pool, film);
}

/** What the kite yard keeps of ropes; plans and tests name ropes there by their names. */
const demoRopesSchema = z.object({
  ropes: z.array(stockRopeSchema),
  things: z.array(thingSchema),
  bodies: z.array(personSchema),
  ties: z.array(KEPT_KINDS.ties.shape),
  tests: z.array(pullTestSchema),
  plans: z.array(z.looseObject({ ropes: z.array(z.looseObject({ rope: z.string() })) })),
});

async function keepDemoRopes(pool: pg.Pool): Promise<void> {
  const text = await readFile(new URL('../../../demo/ropes/larkmoor.json', import.meta.url), 'utf8');
  const demo = demoRopesSchema.parse(JSON.parse(text));
  // A start that was killed half way kept some of it.
  for (const { table } of Object.values(KEPT_TABLES)) await pool.query(`delete from ${table}`);
  const ropes = await keepThings(pool, 'ropes', demo.ropes);
  const idOf = (name: string): string | null => ropes.find((r) => r.is.name === name)?.id ?? null;
  await keepThings(pool, 'things', demo.things);
  await keepThings(pool, 'bodies', demo.bodies);
  await keepThings(pool, 'ties', demo.ties);
  await keepThings(
    pool,
    'tests',
    demo.tests.map((t) => ({ ...t, rope: idOf(t.ropeName) })),
  );
  const plans = demo.plans.map((p) =>
    planSchema.parse({ ...p, ropes: p.ropes.map((r) => ({ ...r, rope: idOf(r.rope) })) }),
  );
  await keepThings(pool, 'plans', plans);
}

/** The ground crew’s first season: what each lesson is for, and how long it is practised. */
const SEASON = [
  ['figure-eight.json', 'Stop a line from running out of a ring.', 10],
  ['reef.json', 'Tie up a rolled kite, and tell the knot from the granny.', 10],
  ['clove-hitch.json', 'Fasten a line to a spar, and keep it from creeping.', 15],
  ['bowline.json', 'Make a loop that does not close, also with cold hands.', 20],
  ['taut-line-hitch.json', 'Draw a guy tight, and slack it again.', 15],
] as const;

async function keepDemoCourse(
  pool: pg.Pool,
  account: Account,
  made: ReadonlyMap<string, string>,
  rigs: readonly { readonly id: string; readonly is: { readonly name: string } }[],
): Promise<void> {
  const names = await pool.query<{ id: string; name: string }>('select id, name from knot');
  const lessons = SEASON.map(([file, goal, practice]) => {
    const id = made.get(file) ?? '';
    return { ref: `knot:${id}`, name: names.rows.find((k) => k.id === id)?.name ?? '', goal, practice };
  });
  const assemblies = rigs.map(({ id, is: { name } }) => ({
    ref: `assembly:${id}`,
    name,
    goal: 'Tie it in its order, and have a second person inspect it.',
    minutes: 10,
    practice: 25,
  }));
  const course = courseSchema.parse({
    name: 'First season on the ground crew',
    summary: 'Two mornings at the estuary, before anybody holds a line in the wind.',
    goals: ['Tie and inspect what holds a show kite.', 'Know what each knot is not for.'],
    items: [...lessons, ...assemblies],
  });
  const [kept] = await keepThings(pool, 'courses', [course]);
  await pool.query('delete from learner_class');
  if (kept) await makeClass(pool, 'Ground crew, spring', kept.id);
  if (kept)
    await publishCourse(pool, account, kept.id, kept.revision, { lessons: new LessonReader(), knots: keptFacts() });
}

/** Knots of the book that the kite yard has on its own shelf: its assemblies show those. */
const OWN_KNOTS = { bowline: 'bowline.json', reef: 'reef.json', 'clove-hitch': 'clove-hitch.json' } as const;

/** The kite yard’s assemblies, from the book, and what an inspection of its bridle came to. */
async function keepDemoAssemblies(pool: pg.Pool, account: Account, made: ReadonlyMap<string, string>): Promise<void> {
  const { BOOK_ASSEMBLIES } = await import('@foxtrail/pattern-book/assemblies');
  await pool.query('delete from inspection');
  const own = new Map(
    Object.entries(OWN_KNOTS).map(([pattern, file]) => [`pattern:${pattern}`, `knot:${made.get(file) ?? ''}`]),
  );
  const yards = ['show-kite-bridle', 'ridge-line'].map((id) => {
    const assembly = BOOK_ASSEMBLIES[id]!();
    return { ...assembly, knots: assembly.knots.map((k) => ({ ...k, ref: own.get(k.ref) ?? k.ref })) };
  });
  const [bridle, ridge] = await keepThings(pool, 'assemblies', yards);
  if (!bridle || !ridge) return;
  await keepDemoCourse(pool, account, made, [ridge, bridle]);
  await recordInspection(pool, bridle.id, DEMO_SIGN_INS[1].name, {
    revision: bridle.revision,
    items: bridle.is.knots.map((k) => ({
      group: k.role,
      text: `It is the ${k.name.toLowerCase()}.`,
      tick: k.id === 'li' ? 'not looked at' : 'right',
    })),
    remarks: 'Delta kite, before the morning flight; the tow line was still on its winch.',
  });
}

/** Loads Larkmoor when the library is empty; tells whether it did. */
export async function loadDemo(pool: pg.Pool): Promise<boolean> {
  const begun = await pool.query('select 1 from house where demo_loading');
  // A start that was killed half way: nobody could change anything yet, so all of it is made anew.
  if (begun.rowCount !== 0) await pool.query("delete from kin_relation where origin = 'stated'");
  if (begun.rowCount !== 0) await pool.query('delete from knot');
  const any = await pool.query('select 1 from knot limit 1');
  if (any.rowCount !== 0) return false;
  await pool.query(
    "update house set demo_loading = true, demo = demo or name = 'My house', name = case name when 'My house' then 'Larkmoor' else name end",
  );
  const rules = await houseRules(pool);
  await changeHouse(pool, { name: 'Larkmoor', practice: LARKMOOR_PRACTICE, revision: rules.revision });
  const { revision, known } = await wordStock(pool);
  await chooseWords(pool, revision, { choice: LARKMOOR_WORDS, known: [...known] });
  for (const { name, role, password } of DEMO_SIGN_INS) await ensureAccount(pool, name, role, password);
  const author = await pool.query<{ id: string }>('select id from account where name = $1', [DEMO_SIGN_INS[0].name]);
  const account = await accountOf(pool, await beginSession(pool, author.rows[0]?.id ?? ''));
  if (!account) throw new Error('the demo author cannot sign in');
  for (const file of DEMO_FILMS) await takeDemoFilm(pool, file);
  const made = new Map<string, string>();
  for (const file of DEMO_FILES) {
    const text = await readFile(new URL(`../../../demo/${file}`, import.meta.url), 'utf8');
    const read = readKnotText(text);
    if (!read.ok) throw refused(read);
    const card = await createKnot(pool, account, { document: JSON.parse(text) as unknown });
    if (!DRAFTS.has(file)) await publishKnot(pool, account, card.id);
    made.set(file, card.id);
  }
  for (const [from, to, kind, why] of LARKMOOR_KIN)
    await stateKin(pool, account, {
      from: `knot:${made.get(from) ?? ''}`,
      to: `knot:${made.get(to) ?? ''}`,
      kind,
      turns: 1,
      origin: 'stated',
      why,
    });
  await keepDemoRopes(pool);
  await keepDemoAssemblies(pool, account, made);
  await pool.query('delete from session');
  await pool.query('update house set demo_loading = false');
  return true;
}
