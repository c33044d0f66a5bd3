/**
 * Lessons: questions on every pattern of the book, ten thousand answers as the author sees them, and the pages that learners are sent.
 */
import { WORKSHOP_WORDS } from '@foxtrail/core';
import { compared, missedAt, type AnswerCount } from '@foxtrail/core/drill';
import { drillOf } from '@foxtrail/pattern-book/drill';
import { patterns } from '@foxtrail/pattern-book';
import { middle, round } from './measure.js';
import { served } from './served.js';

const ANSWERS = 10_000;
const QUESTIONS = 40;
/** Requests for a public page, and how many are under way at once. */
const ASKED = 2000;
const AT_ONCE = 16;

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
    };
  } finally {
    await server.stop();
  }
}
