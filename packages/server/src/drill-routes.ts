/** Routes of practice: what learners answered, and the patterns that are shown beside a knot, as they lie in the hand. */
import { CLASS_ROUTES } from '@foxtrail/contract/classes';
import { DRILL_ROUTES } from '@foxtrail/contract/drill';
import { STATION_NAMES } from '@foxtrail/core';
import { patternKeys } from '@foxtrail/pattern-book';
import type { Router } from 'express';
import { answerCounts, countAnswers, forgetAnswers, letIn } from './answers.js';
import type { AppOptions } from './app.js';
import { aside } from './aside.js';
import { classOf, listClasses, makeClass, removeClass } from './classes.js';
import { Kept } from './kept.js';
import { notFound } from './problem.js';
import { sendSvg } from './pictures.js';
import { Desk } from './serve.js';
import { slipPicture } from './slips.js';

/** Pictures that are kept as they were drawn; one is about thirty kilobytes. */
const PICTURES = 200;
/** The book changes with the program alone. */
const DAY = 86_400;

export function drillRoutes({ pool }: AppOptions): Router {
  const desk = new Desk(pool);
  const drawn = new Kept<string>(PICTURES);
  desk.serve(DRILL_ROUTES.answer, async ({ parameters: { slug }, body, req }) => {
    const address = req.ip ?? '';
    letIn(address, body.answers.length);
    const group = body.code === undefined ? undefined : await classOf(pool, address, body.code);
    await countAnswers(pool, slug, body, group?.id);
  });
  desk.serve(DRILL_ROUTES.counts, async ({ parameters: { id }, query: { group } }) => {
    const known = await pool.query('select 1 from knot where id = $1', [id]);
    if (known.rowCount === 0) throw notFound('knot');
    return { counts: await answerCounts(pool, id, group) };
  });
  desk.serve(DRILL_ROUTES.forget, ({ parameters: { id } }) => forgetAnswers(pool, id));
  desk.serve(CLASS_ROUTES.list, async () => ({ classes: await listClasses(pool) }));
  desk.serve(CLASS_ROUTES.make, ({ body: { name, course } }) => makeClass(pool, name, course));
  desk.serve(CLASS_ROUTES.remove, ({ parameters: { group } }) => removeClass(pool, group));
  desk.serve(CLASS_ROUTES.join, async ({ parameters: { code }, req }) => ({
    name: (await classOf(pool, req.ip ?? '', code)).name,
  }));
  desk.serve(DRILL_ROUTES.keys, ({ res }) => {
    res.setHeader('Cache-Control', `public, max-age=${DAY}`);
    return { keys: patternKeys().entries.map((e) => ({ ...e, slipped: e.slipped === true })) };
  });
  desk.send(DRILL_ROUTES.slip, async ({ parameters: { slug, slip }, res }) => {
    const svg = await slipPicture(pool, slug, slip);
    if (svg === undefined) throw notFound('slip');
    res.setHeader('Cache-Control', 'no-cache');
    sendSvg(res, svg);
  });
  desk.send(DRILL_ROUTES.form, async ({ parameters: { pattern, side }, res }) => {
    const station = STATION_NAMES.find((s) => s === side);
    const svg = station && (await drawn.of(`${pattern} ${station}`, () => aside('patternForm', { pattern, station })));
    if (svg === undefined) throw notFound('form');
    res.setHeader('Cache-Control', `public, max-age=${DAY}`);
    sendSvg(res, svg);
  });
  return desk.routes;
}
