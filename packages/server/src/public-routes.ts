/**
 * Routes that need no account: what is published, its files, and how the interface is described.
 */
import { PUBLIC_ROUTES } from '@foxtrail/contract';
import {
  figureJsonSchema,
  methodsOf,
  numberOf,
  STATION_NAMES,
  stepsOf,
  wordedOf,
  type KnotDocument,
  type Method,
  type View,
} from '@foxtrail/core';
import type { Router } from 'express';
import type { AppOptions } from './app.js';
import { aside } from './aside.js';
import type { AnswerOf } from './aside-orders.js';
import { clipFor, sendClip } from './clips.js';
import { house, housePractice } from './house.js';
import { openApi } from './openapi.js';
import { captions, sendSvg, stepSvg } from './pictures.js';
import { HttpProblem, notFound } from './problem.js';
import { Kept } from './kept.js';
import { listPublished, publicKnot, publishedKnot } from './publications.js';
import { readSaved } from './revisions.js';
import { Desk } from './serve.js';
import { vocabularyOfKnot } from './words.js';

/** Knots whose forms are kept drawn; one is about a fifth of a megabyte. */
const FORMS = 64;

const SUFFIX: Readonly<Record<View, string>> = { front: '', back: '-back', left: '-left-handed' };

/** A knot's method by its place in order, from 1. */
function methodAt(knot: KnotDocument, way: number): Method {
  const found = methodsOf(knot)[way - 1];
  if (!found) throw notFound('method');
  return found.method;
}

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
    const words = await vocabularyOfKnot(pool, wordedOf(knot));
    sendSvg(res, await aside('picture', { of: 'sheet', knot, words }), `${slug}-sheet.svg`);
  });
  const forms = new Kept<AnswerOf<'form'>>(FORMS);
  const setPictures = (knot: KnotDocument, hand: 'right' | 'left'): Promise<AnswerOf<'form'>> =>
    aside('form', { knot, hand }, { ahead: true });
  desk.send(PUBLIC_ROUTES.form, async ({ parameters: { slug, side }, query: { hand }, res }) => {
    const { document, knotId, revision } = await publishedKnot(pool, slug);
    const known = STATION_NAMES.find((s) => s === side);
    if (!known) throw notFound('side');
    const pictures = await forms.of(`${knotId} ${revision} ${hand}`, () => setPictures(readSaved(document), hand));
    if (!pictures.ok)
      throw new HttpProblem(404, 'not-set', slug, `It cannot be set: ${pictures.reason}`, pictures.remedy);
    res.setHeader('Cache-Control', 'no-cache');
    sendSvg(res, pictures.value[known]);
  });
  desk.send(PUBLIC_ROUTES.step, async ({ parameters: { slug, step: name }, query: { view, method: way }, res }) => {
    const { document } = await publishedKnot(pool, slug);
    const knot = readSaved(document);
    const method = methodAt(knot, way);
    const count = stepsOf(method).length;
    const step = name === 'last' ? count : /^\d+$/.test(name) ? Number(name) : NaN;
    if (!(step >= 1 && step <= count)) throw notFound('step');
    const words = await vocabularyOfKnot(pool, wordedOf(knot));
    const of = way === 1 ? '' : `-method-${way}`;
    sendSvg(res, stepSvg(knot.name, method, step - 1, view, words), `${slug}${of}-step-${step}${SUFFIX[view]}.svg`);
  });
  desk.send(PUBLIC_ROUTES.captions, async ({ parameters: { slug }, query: { method: way }, res }) => {
    const { document, knotId, revision } = await publishedKnot(pool, slug);
    const clip = await clipFor(pool, knotId, way - 1, revision);
    const knot = readSaved(document);
    const words = await vocabularyOfKnot(pool, wordedOf(knot));
    const perLine = numberOf(await housePractice(pool), 'caption-line');
    res
      .type('text/vtt')
      .send(captions(knot, methodAt(knot, way), clip?.pace ?? 'normal', words, clip?.cautions ?? true, perLine));
  });
  desk.send(PUBLIC_ROUTES.clip, async ({ parameters: { slug }, query, req, res }) => {
    const { knotId, revision } = await publishedKnot(pool, slug);
    const clip = await clipFor(pool, knotId, query.method - 1, revision);
    if (!clip) throw notFound('clip');
    await sendClip(pool, clip, req, res);
  });
  return desk.routes;
}
