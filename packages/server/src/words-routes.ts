/**
 * Routes of the words: requests to the service and answers back.
 */
import {
  chooseWordsSchema,
  exportWordsQuery,
  importWordsSchema,
  remarkedQuery,
  removeWordsSchema,
  searchQuery,
  setConceptFigureSchema,
  WORD_FORMATS,
  writeConceptSchema,
  writeSchoolSchema,
} from '@foxtrail/contract';
import { conceptId, readKnot, writeKnot } from '@foxtrail/core';
import express, { Router, type Request } from 'express';
import type { Guards } from './guards.js';
import { notFound, refused, HttpProblem } from './problem.js';
import { search } from './search.js';
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

const MEDIA = { ttl: 'text/turtle', jsonld: 'application/ld+json', csv: 'text/csv' } as const;

export function wordsRoutes({ pool, signedIn, author, check }: Guards): Router {
  const routes = Router();
  const body = express.json({ limit: '4mb' });
  const wordId = (req: Request): string => {
    const id = conceptId.safeParse(req.params.word);
    if (!id.success) throw notFound('concept');
    return id.data;
  };
  /** The thing a request writes is the one its address names. */
  const sameId = (req: Request, id: string): void => {
    if (wordId(req) !== id)
      throw new HttpProblem(400, 'refused', id, 'The address names another one.', 'Send it to its own address.');
  };

  routes.get('/api/search', async (req, res) => {
    await signedIn(req);
    res.json({ found: await search(pool, check(searchQuery, req.query).q) });
  });
  routes.get('/api/words', async (req, res) => {
    await signedIn(req);
    res.json(await wordsOf(pool));
  });
  routes.put('/api/words', body, async (req, res) => {
    await author(req);
    const { revision, ...chosen } = check(chooseWordsSchema, req.body);
    res.json(await chooseWords(pool, revision, chosen));
  });
  routes.put('/api/words/concepts/:word', body, async (req, res) => {
    await author(req);
    const { revision, concept } = check(writeConceptSchema, req.body);
    sameId(req, concept.id);
    res.json(await writeConcept(pool, revision, concept));
  });
  routes.delete('/api/words/concepts/:word', async (req, res) => {
    await author(req);
    res.json(await removeConcept(pool, check(removeWordsSchema, req.query).revision, wordId(req)));
  });
  routes.get('/api/words/concepts/:word/figure', async (req, res) => {
    await signedIn(req);
    res.json({ figure: await conceptFigure(pool, wordId(req)) });
  });
  routes.put('/api/words/concepts/:word/figure', body, async (req, res) => {
    await author(req);
    const { figure } = check(setConceptFigureSchema, req.body);
    const read = figure === null ? null : readKnot(figure);
    if (read && !read.ok) throw refused(read);
    res.json(await setConceptFigure(pool, wordId(req), read && writeKnot(read.value)));
  });
  routes.put('/api/words/schools/:word', body, async (req, res) => {
    await author(req);
    const { revision, school } = check(writeSchoolSchema, req.body);
    sameId(req, school.id);
    res.json(await writeSchool(pool, revision, school));
  });
  routes.delete('/api/words/schools/:word', async (req, res) => {
    await author(req);
    res.json(await removeSchool(pool, check(removeWordsSchema, req.query).revision, wordId(req)));
  });
  routes.post('/api/words/import', body, async (req, res) => {
    await author(req);
    res.json(await importWords(pool, check(importWordsSchema, req.body)));
  });
  for (const format of WORD_FORMATS)
    routes.get(`/api/words/glossary.${format}`, async (req, res) => {
      await signedIn(req);
      const { school } = check(exportWordsQuery, req.query);
      const text = await writeWords(pool, format, school);
      res
        .attachment(`${school ?? 'glossary'}.${format}`)
        .type(MEDIA[format])
        .send(text);
    });
  routes.get('/api/words/disputes', async (req, res) => {
    await signedIn(req);
    res.json(await wordDisputes(pool));
  });
  routes.get('/api/words/texts', async (req, res) => {
    await signedIn(req);
    res.json(await remarkedKnots(pool, check(remarkedQuery, req.query).after));
  });
  return routes;
}
