/**
 * Routes of the house: whether the server is well, who is signed in, the rules.
 */
import { HOUSE_ROUTES, type Account, type Session } from '@foxtrail/contract';
import type { Router } from 'express';
import { accountOf, SESSION_DAYS, signIn, signOut } from './accounts.js';
import type { AppOptions } from './app.js';
import { logged } from './claims.js';
import { DEMO_SIGN_INS } from './demo.js';
import { changeHouse, house } from './house.js';
import { countStale, leftToCount } from './recount.js';
import { Desk } from './serve.js';
import { setToken, tokenOf } from './session-cookie.js';

export function houseRoutes({ pool, log, version }: AppOptions): Router {
  const desk = new Desk(pool);
  const session = async (account: Account | null): Promise<Session> => {
    const { demo, ...own } = await house(pool);
    return { account, house: own, demo: demo ? [...DEMO_SIGN_INS] : null };
  };
  desk.serve(HOUSE_ROUTES.health, async ({ res }) => {
    try {
      await pool.query('select 1');
      return { ok: true, database: 'up', version } as const;
    } catch {
      res.status(503);
      return { ok: false, database: 'down', version } as const;
    }
  });
  desk.serve(HOUSE_ROUTES.session, async ({ req }) => {
    const token = tokenOf(req);
    return session((token === undefined ? undefined : await accountOf(pool, token)) ?? null);
  });
  desk.serve(HOUSE_ROUTES.signIn, async ({ body: { name, password }, req, res }) => {
    const { account, token } = await signIn(pool, name, password, req.ip ?? '');
    setToken(req, res, token, SESSION_DAYS * 86_400);
    return session(account);
  });
  desk.serve(HOUSE_ROUTES.signOut, async ({ req, res }) => {
    const token = tokenOf(req);
    if (token !== undefined) await signOut(pool, token);
    setToken(req, res, '', 0);
  });
  desk.serve(HOUSE_ROUTES.change, async ({ body }) => {
    const changed = await changeHouse(pool, body);
    void countStale(pool, logged(log, 'findings not counted'));
    return changed;
  });
  desk.serve(HOUSE_ROUTES.leftToCount, async () => ({ left: await leftToCount(pool) }));
  return desk.routes;
}
