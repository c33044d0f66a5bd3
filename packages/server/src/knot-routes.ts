/**
 * Routes of the shelf and the bench: knots, their revisions, publication and clip.
 */
import { KNOT_ROUTES, type KnotList, type KnotListQuery } from '@foxtrail/contract';
import { wordedOf } from '@foxtrail/core';
import type { Router } from 'express';
import type { AppOptions } from './app.js';
import { cardRow, Shelf } from './cards.js';
import { aside } from './aside.js';
import { AskedByKey } from './asked-together.js';
import { formedCard } from './formed.js';
import { Kept } from './kept.js';
import { logged } from './claims.js';
import { clipFor, sendClip, storeClip, storePoster } from './clips.js';
import { listLike, matchesOf } from './identity.js';
import { createKnot, duplicateKnot, getKnot, leftHandedKnot, PATIENCE, saveKnot, setArchived } from './knots.js';
import { sendSvg } from './pictures.js';
import { HttpProblem, notFound } from './problem.js';
import { tryStale } from './prover.js';
import { publishKnot, withdrawKnot } from './publications.js';
import { nameRevision, readSaved, revisionDocument, revisionsOf } from './revisions.js';
import { Sent } from './sent.js';
import { Desk } from './serve.js';
import { vocabularyOfKnot } from './words.js';

/** A little above the longest figure file, for the envelope round it. */
const BODY_LIMIT = '3mb';
/** How many thumbnails are kept; one is a few kilobytes. */
const KEPT_THUMBNAILS = 1000;

export function knotRoutes({ pool, log, patience = PATIENCE }: AppOptions): Router {
  const desk = new Desk(pool, BODY_LIMIT);
  const shelf = new Shelf(pool);
  const thumbnails = new Kept<string>(KEPT_THUMBNAILS);
  /** The same page of the shelf is read and written once for all who ask for it at the same time. */
  const lists = new AskedByKey(async (key) => {
    const { like, archived, ...asked } = JSON.parse(key) as KnotListQuery;
    const list = like === undefined ? shelf.list({ ...asked, archived: archived === 'true' }) : listLike(pool, like);
    return new Sent(JSON.stringify((await list) satisfies KnotList), 'json');
  });
  desk.send(KNOT_ROUTES.list, async ({ query, req, res }) => {
    await (await lists.now(JSON.stringify(query))).to(req, res);
  });
  desk.serve(KNOT_ROUTES.create, async ({ account, body }) => ({
    card: await createKnot(pool, account, body, patience),
  }));
  desk.serve(KNOT_ROUTES.identify, async ({ body: { except, ...keys } }) => ({
    matches: await matchesOf(pool, keys, except),
  }));
  desk.serve(KNOT_ROUTES.read, async ({ parameters: { id }, res }) => {
    const knot = await getKnot(pool, id);
    res.setHeader('ETag', `"${knot.card.revision}"`);
    return knot;
  });
  desk.serve(KNOT_ROUTES.save, async ({ account, parameters: { id }, body, req, res }) => {
    const match = /^"(\d+)"$/.exec(req.get('if-match') ?? '');
    if (!match)
      throw new HttpProblem(
        428,
        'no-revision',
        'If-Match',
        'The request does not say which revision it was made from.',
        'Send its ETag as If-Match.',
      );
    const card = await saveKnot(
      pool,
      { account, save: body.save },
      id,
      { from: Number(match[1]), document: body.document },
      patience,
    );
    void tryStale(pool, logged(log, 'kin not tried'));
    res.setHeader('ETag', `"${card.revision}"`);
    return { card };
  });
  desk.send(KNOT_ROUTES.thumbnail, async ({ parameters: { id }, query, res }) => {
    const { revision } = await cardRow(pool, id);
    // The address of a picture names its revision: what is there once stays. A drawing that stands in for a form does not.
    const stays = (): void => {
      if (query.r === revision) res.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
    };
    const formed = await formedCard(pool, id, revision);
    if (formed !== undefined) stays();
    if (typeof formed === 'string') {
      sendSvg(res, formed);
      return;
    }
    const drawn = await thumbnails.of(`${id} ${revision}`, async () => {
      const knot = readSaved(await revisionDocument(pool, id, revision));
      return aside('picture', { of: 'thumbnail', knot, words: await vocabularyOfKnot(pool, wordedOf(knot)) });
    });
    sendSvg(res, drawn);
  });
  desk.serve(KNOT_ROUTES.revisions, ({ parameters: { id } }) => revisionsOf(pool, id));
  desk.serve(KNOT_ROUTES.revision, async ({ parameters: { id, number } }) => ({
    document: await revisionDocument(pool, id, number),
  }));
  desk.serve(KNOT_ROUTES.nameRevision, ({ parameters: { id, number }, body: { name } }) =>
    nameRevision(pool, id, number, name),
  );
  desk.serve(KNOT_ROUTES.duplicate, async ({ account, parameters: { id } }) => ({
    card: await duplicateKnot(pool, account, id, patience),
  }));
  desk.serve(KNOT_ROUTES.leftHanded, async ({ account, parameters: { id } }) => ({
    card: await leftHandedKnot(pool, account, id, patience),
  }));
  desk.serve(KNOT_ROUTES.archive, async ({ parameters: { id } }) => ({ card: await setArchived(pool, id, true) }));
  desk.serve(KNOT_ROUTES.restore, async ({ parameters: { id } }) => ({ card: await setArchived(pool, id, false) }));
  desk.serve(KNOT_ROUTES.publish, ({ account, parameters: { id } }) => publishKnot(pool, account, id));
  desk.serve(KNOT_ROUTES.withdraw, ({ account, parameters: { id } }) => withdrawKnot(pool, account, id));
  desk.serve(KNOT_ROUTES.keepClip, ({ parameters: { id }, query, req }) =>
    storeClip(
      pool,
      id,
      {
        ...query,
        method: query.method - 1,
        reel: query.reel === undefined ? null : query.reel - 1,
        cautions: query.cautions === 'true',
      },
      req,
    ),
  );
  desk.serve(KNOT_ROUTES.keepPoster, ({ parameters: { id }, query, req }) =>
    storePoster(pool, id, query.method - 1, req),
  );
  desk.send(KNOT_ROUTES.clip, async ({ parameters: { id }, query, req, res }) => {
    const clip = await clipFor(pool, id, query.method - 1);
    if (!clip) throw notFound('clip');
    await sendClip(pool, clip, req, res);
  });
  return desk.routes;
}
