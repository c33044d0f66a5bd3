/**
 * Routes that need no account: what is published, its files, and how the interface is described.
 */
import { PUBLIC_ROUTES } from '@foxtrail/contract';
import { figureJsonSchema, numberOf, stepsOf, wordedOf, type View } from '@foxtrail/core';
import type { Router } from 'express';
import type { AppOptions } from './app.js';
import { clipFor, sendClip } from './clips.js';
import { house, housePractice } from './house.js';
import { openApi } from './openapi.js';
import { captions, sendSvg, sheetSvg, stepSvg } from './pictures.js';
import { notFound } from './problem.js';
import { listPublished, publicKnot, publishedKnot } from './publications.js';
import { readSaved } from './revisions.js';
import { Desk } from './serve.js';
import { vocabularyOfKnot } from './words.js';

const SUFFIX: Readonly<Record<View, string>> = { front: '', back: '-back', left: '-left-handed' };

export function publicRoutes({ pool }: AppOptions): Router {
  const desk = new Desk(pool);
  desk.routes.get('/api/openapi.json', (_req, res) => void res.json(openApi()));
  desk.send(PUBLIC_ROUTES.schema, ({ res }) => void res.json(figureJsonSchema()));
  desk.serve(PUBLIC_ROUTES.list, async () => {
    const [{ name }, knots] = await Promise.all([house(pool), listPublished(pool)]);
    return { house: name, knots };
  });
  desk.serve(PUBLIC_ROUTES.read, ({ parameters: { slug } }) => publicKnot(pool, slug));
  desk.send(PUBLIC_ROUTES.figure, async ({ parameters: { slug }, res }) => {
    const { document } = await publishedKnot(pool, slug);
    res
      .attachment(`${slug}.json`)
      .type('application/json')
      .send(JSON.stringify(document, null, 2));
  });
  desk.send(PUBLIC_ROUTES.sheet, async ({ parameters: { slug }, res }) => {
    const { document } = await publishedKnot(pool, slug);
    const knot = readSaved(document);
    sendSvg(res, sheetSvg(knot, await vocabularyOfKnot(pool, wordedOf(knot))), `${slug}-sheet.svg`);
  });
  desk.send(PUBLIC_ROUTES.step, async ({ parameters: { slug, step: name }, query: { view }, res }) => {
    const { document } = await publishedKnot(pool, slug);
    const knot = readSaved(document);
    const count = stepsOf(knot.method).length;
    const step = name === 'last' ? count : /^\d+$/.test(name) ? Number(name) : NaN;
    if (!(step >= 1 && step <= count)) throw notFound('step');
    const words = await vocabularyOfKnot(pool, wordedOf(knot));
    sendSvg(res, stepSvg(knot, step - 1, view, words), `${slug}-step-${step}${SUFFIX[view]}.svg`);
  });
  desk.send(PUBLIC_ROUTES.captions, async ({ parameters: { slug }, res }) => {
    const { document, knotId, revision } = await publishedKnot(pool, slug);
    const clip = await clipFor(pool, knotId, revision);
    const knot = readSaved(document);
    const words = await vocabularyOfKnot(pool, wordedOf(knot));
    const perLine = numberOf(await housePractice(pool), 'caption-line');
    res.type('text/vtt').send(captions(knot, clip?.pace ?? 'normal', words, clip?.cautions ?? true, perLine));
  });
  desk.send(PUBLIC_ROUTES.clip, async ({ parameters: { slug }, req, res }) => {
    const { knotId, revision } = await publishedKnot(pool, slug);
    const clip = await clipFor(pool, knotId, revision);
    if (!clip) throw notFound('clip');
    await sendClip(pool, clip, req, res);
  });
  return desk.routes;
}
