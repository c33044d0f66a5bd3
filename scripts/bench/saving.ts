/**
 * Saving, and what else the server answers meanwhile: a server process of its own on the real database, asked over its socket as a browser
 * does. The time of a save by the size of its knot; and the time of a public page while requests go on that were meant to stop the server.
 */
import { randomUUID } from 'node:crypto';
import { methodFor, weaveFigure, writeKnot, EMPTY_ENTRY, type Figure } from '@foxtrail/core';
import { serpentine } from '../../packages/core/spec/support/figures.js';
import { springWith } from './identity.js';
import { middle, round } from './measure.js';
import { pagesWhile, served } from './served.js';

const SAVES = 30;

/** One rope to and fro over the board and then up and down, over and under as it comes. */
function woven(lines: number): Figure {
  const points = serpentine(lines);
  return weaveFigure(
    {
      ropes: [{ id: 'a', points, curve: 'straight', closed: false, ends: ['standing', 'tail'], weave: '' }],
      hosts: [],
    },
    (_, i) => i % 2 === 0,
  );
}
const fileOf = (name: string, figure: Figure, methods = 1): object =>
  writeKnot({
    name,
    entry: EMPTY_ENTRY,
    method: methodFor(figure),
    others: Array.from({ length: methods - 1 }, (_, i) => ({ name: `Method ${i + 2}`, method: methodFor(figure) })),
    extra: {},
  });

/** Requests that each stopped the server once. */
function heavy(): Record<string, [path: string, body: object]> {
  const zigzag = (n: number): object => ({
    id: `r${n}`,
    curve: 'straight',
    points: Array.from({ length: 2000 }, (_, i) => [-300 + (0.2 + 0.01 * n) * i, i % 2 === 0 ? -200 : 200]),
  });
  const names = Array.from({ length: 20_000 }, (_, i) => `"name ${i}"@en`).join(', ');
  const text = `@prefix skos: <http://www.w3.org/2004/02/skos/core#> .
    <urn:x> a skos:Concept ; skos:inScheme <urn:s> ; skos:prefLabel "Many"@en ; skos:altLabel ${names} .`;
  const zigzags = { format: 'foxtrail-figure/1', ropes: Array.from({ length: 12 }, (_, n) => zigzag(n)) };
  return {
    'twelve ropes of 2,000 points': ['/api/knots', { document: zigzags }],
    'a serpentine': ['/api/knots', { document: fileOf('Serpentine', woven(16)) }],
    'a serpentine by five methods': ['/api/knots', { document: fileOf('Serpentines', woven(16), 5) }],
    'a concept of 20,000 names': ['/api/words/import', { format: 'ttl', text, answers: {}, apply: false }],
  };
}

export async function savingBench(databaseUrl: string): Promise<object> {
  const { base, ask, stop } = await served(databaseUrl);
  try {
    interface Answered {
      readonly card: { readonly id: string; readonly revision: number; readonly examined: boolean };
    }
    const examined = async (id: string): Promise<boolean> => {
      const answer = await ask('GET', `/api/knots/${id}`);
      return ((await answer.json()) as Answered).card.examined;
    };
    const saves: object[] = [];
    for (const wanted of [20, 60, 120, 290]) {
      const figure = springWith(wanted);
      const made = (await (await ask('POST', '/api/knots', { document: fileOf('Spring', figure) })).json()) as Answered;
      const times: number[] = [];
      let { revision } = made.card;
      for (let i = 0; i < SAVES; i += 1) {
        const began = performance.now();
        const answer = await ask(
          'PUT',
          `/api/knots/${made.card.id}`,
          { document: fileOf(`Spring ${i}`, figure), save: randomUUID() },
          { 'If-Match': `"${revision}"` },
        );
        ({ revision } = ((await answer.json()) as Answered).card);
        times.push(performance.now() - began);
      }
      const last = performance.now();
      while (!(await examined(made.card.id))) await new Promise((done) => setTimeout(done, 20));
      saves.push({
        crossings: wanted,
        median: middle(times, 0.5),
        p95: middle(times, 0.95),
        slowest: middle(times, 1),
        examinedAfter: round(performance.now() - last),
      });
    }
    const pages: Record<string, object> = {};
    const slug = '/learn/figure-eight';
    await (await fetch(base + slug)).text();
    for (const [name, [path, body]] of Object.entries(heavy())) {
      let status: number | undefined;
      const began = performance.now();
      const request = ask('POST', path, body).then(async (answer) => {
        await answer.text();
        status = answer.status;
        return round(performance.now() - began);
      });
      // While it goes on, and some seconds of what it leaves to be done.
      const meanwhile = await pagesWhile(base + slug, () => status === undefined || performance.now() - began < 5000);
      pages[name] = { answeredAfter: await request, status, ...meanwhile };
    }
    return { saves, publicPageMeanwhile: pages };
  } finally {
    await stop();
  }
}
