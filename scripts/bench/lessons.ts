/**
 * Lessons: questions on every pattern of the book, ten thousand answers as the author sees them, and the pages that learners are sent; a course of
 * thirty lessons made into its booklet.
 */
import { stat } from 'node:fs/promises';
import { WORKSHOP_WORDS, writeKnot } from '@foxtrail/core';
import { compared, missedAt, type AnswerCount } from '@foxtrail/core/drill';
import { drillOf } from '@foxtrail/pattern-book/drill';
import { patterns } from '@foxtrail/pattern-book';
import { middle, onPage, round } from './measure.js';
import { served } from './served.js';

const ANSWERS = 10_000;
const QUESTIONS = 40;
/** Requests for a public page, and how many are under way at once. */
const ASKED = 2000;
const AT_ONCE = 16;

/** Lessons of the course whose booklet is made. */
const LESSONS = 30;

/** A course of thirty lessons, from the press that asks for its booklet to the file; how often its bar moved meanwhile. */
async function bookletOf(databaseUrl: string): Promise<object> {
  const documents = patterns()
    .filter((p) => p.wrongWayOf === undefined)
    .map(({ knot }) => writeKnot({ ...knot, name: `${knot.name}, taught` }));
  return onPage(databaseUrl, 'Course Author', async (page, base, pool) => {
    const course = await page.evaluate(
      async ({ all, wanted }) => {
        const post = async (path: string, body: object = {}): Promise<unknown> => {
          const answer = await fetch(path, {
            method: 'POST',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify(body),
          });
          if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`);
          return answer.json();
        };
        const items: object[] = [];
        for (const document of all) {
          if (items.length === wanted) break;
          const { card } = (await post('/api/knots', { document })) as { card: { id: string; name: string } };
          // What this house’s rules keep from being published is no lesson: the next one is taken.
          const published = await post(`/api/knots/${card.id}/publication`).catch(() => undefined);
          if (published === undefined) continue;
          const { slug } = published as { slug: string };
          // Knots are set once, when they are looked at first: that is not the booklet’s time.
          await fetch(`/api/public/knots/${slug}/form/front.svg`);
          items.push({ ref: `knot:${card.id}`, name: card.name });
        }
        const [made] = (await post('/api/kept/courses', { things: [{ name: 'Bench course', items }] })) as {
          id: string;
        }[];
        return made!.id;
      },
      { all: documents, wanted: LESSONS },
    );
    await page.goto(`${base}/courses/${course}`);
    await page.locator('ft-course-desk button:not([disabled])', { hasText: 'Booklet' }).waitFor();
    await page.evaluate(() => {
      const told = globalThis as { moved?: number };
      told.moved = 0;
      new MutationObserver(() => (told.moved = (told.moved ?? 0) + 1)).observe(document.body, {
        subtree: true,
        attributes: true,
        attributeFilter: ['aria-valuenow'],
      });
    });
    const made: Record<string, object> = {};
    for (const kind of ['Web pages (ZIP)', 'Booklet, A4 (PDF)', 'Pocket cards, A4 (PDF)']) {
      await page.evaluate(() => void ((globalThis as { moved?: number }).moved = 0));
      await page.locator('ft-course-desk button:not([disabled])', { hasText: 'Booklet' }).press('Enter');
      const began = performance.now();
      const [download] = await Promise.all([
        page.waitForEvent('download', { timeout: 300_000 }),
        page.getByRole('menuitem', { name: kind }).click(),
      ]);
      const ms = performance.now() - began;
      const { size } = await stat(await download.path());
      const moved = await page.evaluate(() => (globalThis as { moved?: number }).moved ?? 0);
      made[kind] = { ms: round(ms), bytes: size, barMoved: moved };
    }
    await pool.query("delete from course where name = 'Bench course'");
    return { lessons: LESSONS, made };
  });
}

export async function lessonsBench(databaseUrl: string): Promise<object> {
  const each = patterns().flatMap(({ knot }) => {
    const began = performance.now();
    const found = drillOf(knot, WORKSHOP_WORDS);
    const ms = performance.now() - began;
    return found.ok && found.value.length > 0 ? [{ ms, count: found.value.length }] : [];
  });
  const perQuestion = each.map(({ ms, count }) => ms / count);
  // Answers come to the author as counts, however many there were.
  const counts: AnswerCount[] = Array.from({ length: 2 * QUESTIONS }, (_, i) => ({
    revision: i < QUESTIONS ? 3 : 4,
    question: `judge:slip-${i % QUESTIONS}`,
    right: (ANSWERS / QUESTIONS / 2) | 0,
    wrong: (ANSWERS / QUESTIONS / 2) | 0,
  }));
  const began = performance.now();
  const shown = compared(counts, 3, 4).length + missedAt(counts, 4).size;
  const countedMs = performance.now() - began;

  const server = await served(databaseUrl);
  try {
    const { knots } = (await (await fetch(`${server.base}/api/public/knots`)).json()) as { knots: { slug: string }[] };
    const paths = knots.flatMap(({ slug }) => [`/learn/${slug}`, `/learn/${slug}/practice`]);
    const first = await Promise.all(paths.map(async (p) => (await fetch(server.base + p)).status));
    const there = paths.filter((_, i) => first[i] === 200);
    const sent = performance.now();
    let next = 0;
    await Promise.all(
      Array.from({ length: AT_ONCE }, async () => {
        while (next < ASKED) {
          const path = there[next++ % there.length]!;
          const answer = await fetch(server.base + path);
          if (!answer.ok) throw new Error(`${path}: ${answer.status}`);
          await answer.arrayBuffer();
        }
      }),
    );
    return {
      patterns: each.length,
      questions: each.reduce((sum, e) => sum + e.count, 0),
      questionMs: round(middle(perQuestion, 0.5)),
      slowestQuestionMs: round(Math.max(...perQuestion)),
      slowestKnotMs: round(Math.max(...each.map((e) => e.ms))),
      rowsOfAnswers: shown,
      countedMs: round(countedMs),
      pages: there.length,
      pagesASecond: round(ASKED / ((performance.now() - sent) / 1000)),
      booklet: await bookletOf(databaseUrl),
    };
  } finally {
    await server.stop();
  }
}
