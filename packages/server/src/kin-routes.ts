/**
 * Routes of kin.
 */
import { KIN_ROUTES } from '@foxtrail/contract';
import type { Router } from 'express';
import type { AppOptions } from './app.js';
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
import { Desk } from './serve.js';

export function kinRoutes({ pool }: AppOptions): Router {
  const desk = new Desk(pool);
  desk.serve(KIN_ROUTES.read, () => kin(pool));
  desk.serve(KIN_ROUTES.state, ({ account, body }) => stateKin(pool, account, body));
  desk.serve(KIN_ROUTES.judge, ({ account, parameters: { relation }, body: { why } }) =>
    judgeKin(pool, account, relation, why),
  );
  desk.serve(KIN_ROUTES.takeBack, ({ parameters: { relation } }) => takeKinBack(pool, relation));
  desk.serve(KIN_ROUTES.documents, ({ query: { after } }) => kinDocuments(pool, after));
  desk.serve(KIN_ROUTES.addFamily, ({ body: { name, parent } }) => addFamily(pool, name, parent));
  desk.serve(KIN_ROUTES.changeFamily, ({ parameters: { family }, body }) => changeFamily(pool, family, body));
  desk.serve(KIN_ROUTES.dissolveFamily, ({ parameters: { family } }) => dissolveFamily(pool, family));
  desk.serve(KIN_ROUTES.place, ({ parameters: { id }, body: { family } }) => putIntoFamily(pool, id, family));
  return desk.routes;
}
