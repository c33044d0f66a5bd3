/**
 * Routes that need no account: what is published, its files, and how the interface is described.
 */
import { PUBLIC_ROUTES } from '@foxtrail/contract';
import {
  finishedLayout,
  leftHanded,
  figureJsonSchema,
  methodsOf,
  numberOf,
  STATION_NAMES,
  stepsOf,
  stepText,
  wordedOf,
  type KnotDocument,
  type Method,
  type Step,
  type View,
  tailAskedOf,
} from '@foxtrail/core';
import { filmChapters, filmWebVtt } from '@foxtrail/core/reel';
import { faceSvg } from '@foxtrail/core/form';
import type { Router } from 'express';
import type { AppOptions } from './app.js';
import { aside } from './aside.js';
import type { AnswerOf } from './aside-orders.js';
import { clipFor, posterOf, sendClip } from './clips.js';
import { filmsShown, sendFilm } from './films.js';
import { inHand, type Hand } from './hand.js';
import { house, housePractice } from './house.js';
import { openApi } from './openapi.js';
import { captions, chapters, descriptions, sendSvg, stepSvg } from './pictures.js';
import { HttpProblem, notFound } from './problem.js';
import { Kept } from './kept.js';
import { listPublished, publicKnot, publishedKnot } from './publications.js';
import { readSaved } from './revisions.js';
import { Desk } from './serve.js';
import { vocabularyOfKnot } from './words.js';

/** Knots whose forms are kept drawn; one is about half a megabyte. */
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
  const forms = new Kept<AnswerOf<'form'>>(FORMS);
  /** The pictures of a published knot in the hand, tied by one of its methods; why it cannot be set, where it cannot. */
  const setPictures = (
    { knotId, revision }: { readonly knotId: string; readonly revision: number },
    knot: KnotDocument,
    way: number,
    hand: Hand,
  ): Promise<AnswerOf<'form'>> =>
    forms.of(`${knotId} ${revision} ${hand} ${way}`, () =>
      inHand({ ...knot, method: methodAt(knot, way) }, hand, { ahead: true }),
    );
  desk.send(PUBLIC_ROUTES.sheet, async ({ parameters: { slug }, res }) => {
    const published = await publishedKnot(pool, slug);
    const knot = readSaved(published.document);
    const words = await vocabularyOfKnot(pool, wordedOf(knot));
    const formed = await Promise.all(
      methodsOf(knot).map(async ({ method }, k) => {
        if (stepsOf(method).every((s) => s.does === 'lay')) return undefined;
        const pictures = await setPictures(published, knot, k + 1, 'right');
        return pictures.ok ? pictures.value.finishes : undefined;
      }),
    );
    sendSvg(res, await aside('picture', { of: 'sheet', knot, words, formed }), `${slug}-sheet.svg`);
  });
  desk.send(PUBLIC_ROUTES.form, async ({ parameters: { slug, side }, query: { hand }, res }) => {
    const published = await publishedKnot(pool, slug);
    const known = STATION_NAMES.find((s) => s === side);
    if (!known) throw notFound('side');
    const pictures = await setPictures(published, readSaved(published.document), 1, hand);
    if (!pictures.ok)
      throw new HttpProblem(404, 'not-set', slug, `It cannot be set: ${pictures.reason}`, pictures.remedy);
    res.setHeader('Cache-Control', 'no-cache');
    sendSvg(res, pictures.value.sides[known]);
  });
  desk.send(PUBLIC_ROUTES.inSpace, async ({ parameters: { slug }, query: { hand }, res }) => {
    const published = await publishedKnot(pool, slug);
    const pictures = await setPictures(published, readSaved(published.document), 1, hand);
    if (!pictures.ok)
      throw new HttpProblem(404, 'not-set', slug, `It cannot be set: ${pictures.reason}`, pictures.remedy);
    res.setHeader('Cache-Control', 'no-cache');
    res.json(pictures.value.space);
  });
  desk.send(PUBLIC_ROUTES.step, async ({ parameters: { slug, step: name }, query: { view, method: way }, res }) => {
    const published = await publishedKnot(pool, slug);
    const knot = readSaved(published.document);
    const method = methodAt(knot, way);
    const count = stepsOf(method).length;
    const step = name === 'last' ? count : /^\d+$/.test(name) ? Number(name) : NaN;
    if (!(step >= 1 && step <= count)) throw notFound('step');
    const of = way === 1 ? '' : `-method-${way}`;
    const fileName = `${slug}${of}-step-${step}${SUFFIX[view]}.svg`;
    const words = await vocabularyOfKnot(pool, wordedOf(knot));
    // A step that finishes the knot shows it as it lies in the hand, where it can be set.
    const { does } = stepsOf(method)[step - 1] as Step;
    const pictures =
      does === 'lay' ? undefined : await setPictures(published, knot, way, view === 'left' ? 'left' : 'right');
    if (does !== 'lay' && pictures?.ok === true) {
      const { sides, finishes } = pictures.value;
      const title = `${knot.name}, step ${step} of ${count}`;
      const description = stepText(method, step - 1, words);
      const fromBehind = view === 'back' && does === 'dress';
      sendSvg(res, fromBehind ? sides.back : faceSvg(finishes[does], { title, description }), fileName);
      return;
    }
    sendSvg(res, stepSvg(knot.name, method, step - 1, view, words), fileName);
  });
  /** What goes with the clip of a published knot's method, as that was filmed; as it would be, where there is none. */
  const besideClip = async (slug: string, way: number) => {
    const { document, knotId, revision } = await publishedKnot(pool, slug);
    const clip = await clipFor(pool, knotId, way - 1, revision);
    const knot = readSaved(document);
    const words = await vocabularyOfKnot(pool, wordedOf(knot));
    const practice = await housePractice(pool);
    const tail = tailAskedOf(practice, knot.entry);
    return {
      knot,
      method: methodAt(knot, way),
      words,
      practice,
      filming: { pace: clip?.pace ?? 'normal', warned: clip?.cautions ?? true, reel: clip?.reel ?? undefined, tail },
    };
  };
  desk.send(PUBLIC_ROUTES.captions, async ({ parameters: { slug }, query, res }) => {
    const { knot, method, words, practice, filming } = await besideClip(slug, query.method);
    const perLine = numberOf(practice, 'caption-line');
    res.type('text/vtt').send(captions(knot, method, words, filming, perLine));
  });
  desk.send(PUBLIC_ROUTES.chapters, async ({ parameters: { slug }, query, res }) => {
    const { knot, method, words, filming } = await besideClip(slug, query.method);
    res.type('text/vtt').send(chapters(knot, method, words, filming));
  });
  desk.send(PUBLIC_ROUTES.descriptions, async ({ parameters: { slug }, query, res }) => {
    const { knot, method, words, filming } = await besideClip(slug, query.method);
    res.type('text/vtt').send(descriptions(knot, method, words, filming));
  });
  desk.send(PUBLIC_ROUTES.clip, async ({ parameters: { slug }, query, req, res }) => {
    const { knotId, revision } = await publishedKnot(pool, slug);
    const clip = await clipFor(pool, knotId, query.method - 1, revision);
    if (!clip) throw notFound('clip');
    await sendClip(pool, clip, req, res);
  });
  desk.send(PUBLIC_ROUTES.poster, async ({ parameters: { slug }, query: { method: way }, res }) => {
    const { document, knotId, revision } = await publishedKnot(pool, slug);
    const clip = await clipFor(pool, knotId, way - 1, revision);
    const poster = clip && (await posterOf(pool, clip.id));
    if (poster) {
      res.type(poster.type).send(poster.bytes);
      return;
    }
    const last = stepsOf(methodAt(readSaved(document), way)).length;
    if (last === 0) throw notFound('poster');
    res.redirect(302, `steps/${last}.svg?method=${way}`);
  });
  desk.send(PUBLIC_ROUTES.film, async ({ parameters: { slug, film }, req, res }) => {
    const { document } = await publishedKnot(pool, slug);
    if (!filmsShown(readSaved(document)).some((f) => f.film === film)) throw notFound('film');
    await sendFilm(pool, film, req, res);
  });
  /** A film of a published knot's method, for the hand that is shown. */
  const filmOf = async (slug: string, film: string, { hand, method: way }: { hand: string; method: number }) => {
    const { document } = await publishedKnot(pool, slug);
    const knot = readSaved(document);
    const own = methodAt(knot, way);
    const method = hand === 'left' ? leftHanded(own) : own;
    return { knot, method, shown: (finishedLayout(method).footage ?? []).find((f) => f.film === film) };
  };
  desk.send(PUBLIC_ROUTES.filmCaptions, async ({ parameters: { slug, film }, query, res }) => {
    const { shown } = await filmOf(slug, film, query);
    if (!shown?.captions) throw notFound('captions');
    const perLine = numberOf(await housePractice(pool), 'caption-line');
    res.type('text/vtt').send(filmWebVtt(shown.captions, shown.name, perLine));
  });
  desk.send(PUBLIC_ROUTES.filmChapters, async ({ parameters: { slug, film }, query, res }) => {
    const { knot, method, shown } = await filmOf(slug, film, query);
    if (!shown?.steps) throw notFound('chapters');
    res.type('text/vtt').send(filmChapters(shown, method, await vocabularyOfKnot(pool, wordedOf(knot))));
  });
  return desk.routes;
}
