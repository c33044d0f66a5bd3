/**
 * Routes of kin: requests to the service and answers back.
 */
import {
  addFamilySchema,
  changeFamilySchema,
  judgeKinSchema,
  kinDocumentsQuery,
  placeKnotSchema,
  stateKinSchema,
} from '@foxtrail/contract';
import express, { Router, type Request } from 'express';
import * as z from 'zod';
import {
  addFamily,
  changeFamily,
  dissolveFamily,
  judgeKin,
  kin,
  kinDocuments,
  putIntoFamily,
  stateKin,
  takeKinBack,
} from './kin.js';
import { notFound } from './problem.js';
import type { Guards } from './guards.js';

export function kinRoutes({ pool, signedIn, author, check }: Guards): Router {
  const routes = Router();
  const body = express.json();
  const idOf = (req: Request, name: 'relation' | 'family' | 'id', what: string): string => {
    const id = z.uuid().safeParse(req.params[name]);
    if (!id.success) throw notFound(what);
    return id.data;
  };

  routes.get('/api/kin', async (req, res) => {
    await signedIn(req);
    res.json(await kin(pool));
  });
  routes.post('/api/kin/relations', body, async (req, res) => {
    const account = await author(req);
    res.status(201).json(await stateKin(pool, account, check(stateKinSchema, req.body)));
  });
  routes.put('/api/kin/relations/:relation', body, async (req, res) => {
    const account = await author(req);
    const { why } = check(judgeKinSchema, req.body);
    res.json(await judgeKin(pool, account, idOf(req, 'relation', 'relation'), why));
  });
  routes.delete('/api/kin/relations/:relation', async (req, res) => {
    await author(req);
    await takeKinBack(pool, idOf(req, 'relation', 'relation'));
    res.status(204).end();
  });
  routes.get('/api/kin/documents', async (req, res) => {
    await signedIn(req);
    res.json(await kinDocuments(pool, check(kinDocumentsQuery, req.query).after));
  });
  routes.post('/api/kin/families', body, async (req, res) => {
    await author(req);
    const { name, parent } = check(addFamilySchema, req.body);
    res.status(201).json(await addFamily(pool, name, parent));
  });
  routes.put('/api/kin/families/:family', body, async (req, res) => {
    await author(req);
    res.json(await changeFamily(pool, idOf(req, 'family', 'family'), check(changeFamilySchema, req.body)));
  });
  routes.delete('/api/kin/families/:family', async (req, res) => {
    await author(req);
    res.json(await dissolveFamily(pool, idOf(req, 'family', 'family')));
  });
  routes.put('/api/knots/:id/family', body, async (req, res) => {
    await author(req);
    res.json(await putIntoFamily(pool, idOf(req, 'id', 'knot'), check(placeKnotSchema, req.body).family));
  });
  return routes;
}
