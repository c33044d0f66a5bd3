/**
 * Routes of the words.
 */
import { WORD_FORMATS, WORD_ROUTES } from '@foxtrail/contract';
import { readKnot, writeKnot } from '@foxtrail/core';
import type { Router } from 'express';
import type { AppOptions } from './app.js';
import { HttpProblem, refused } from './problem.js';
import { search } from './search.js';
import { Desk } from './serve.js';
import {
  chooseWords,
  conceptFigure,
  importWords,
  remarkedKnots,
  removeConcept,
  removeSchool,
  setConceptFigure,
  wordDisputes,
  wordsOf,
  writeConcept,
  writeSchool,
  writeWords,
} from './words.js';

/** A little above the longest glossary. */
const BODY_LIMIT = '4mb';

/** The thing a request writes is the one its address names. */
function sameId(word: string, id: string): void {
  if (word !== id)
    throw new HttpProblem(400, 'refused', id, 'The address names another one.', 'Send it to its own address.');
}

export function wordsRoutes({ pool }: AppOptions): Router {
  const desk = new Desk(pool, BODY_LIMIT);
  desk.serve(WORD_ROUTES.search, async ({ query: { q } }) => ({ found: await search(pool, q) }));
  desk.serve(WORD_ROUTES.read, () => wordsOf(pool));
  desk.serve(WORD_ROUTES.choose, ({ body: { revision, ...chosen } }) => chooseWords(pool, revision, chosen));
  desk.serve(WORD_ROUTES.writeConcept, ({ parameters: { word }, body: { revision, concept } }) => {
    sameId(word, concept.id);
    return writeConcept(pool, revision, concept);
  });
  desk.serve(WORD_ROUTES.removeConcept, ({ parameters: { word }, query: { revision } }) =>
    removeConcept(pool, revision, word),
  );
  desk.serve(WORD_ROUTES.conceptFigure, async ({ parameters: { word } }) => ({
    figure: await conceptFigure(pool, word),
  }));
  desk.serve(WORD_ROUTES.setConceptFigure, ({ parameters: { word }, body: { figure } }) => {
    const read = figure === null ? null : readKnot(figure);
    if (read && !read.ok) throw refused(read);
    return setConceptFigure(pool, word, read && writeKnot(read.value));
  });
  desk.serve(WORD_ROUTES.writeSchool, ({ parameters: { word }, body: { revision, school } }) => {
    sameId(word, school.id);
    return writeSchool(pool, revision, school);
  });
  desk.serve(WORD_ROUTES.removeSchool, ({ parameters: { word }, query: { revision } }) =>
    removeSchool(pool, revision, word),
  );
  desk.serve(WORD_ROUTES.importWords, ({ body }) => importWords(pool, body));
  for (const format of WORD_FORMATS)
    desk.send(WORD_ROUTES[format], async ({ query: { school }, res }) => {
      const text = await writeWords(pool, format, school);
      res
        .attachment(`${school ?? 'glossary'}.${format}`)
        .type(WORD_ROUTES[format].media)
        .send(text);
    });
  desk.serve(WORD_ROUTES.disputes, () => wordDisputes(pool));
  desk.serve(WORD_ROUTES.texts, ({ query: { after } }) => remarkedKnots(pool, after));
  return desk.routes;
}
