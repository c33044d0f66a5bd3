/**
 * Routes of the house: whether the server is well, who is signed in, the rules.
 */
import { HOUSE_ROUTES, type Account, type Session } from '@foxtrail/contract';
import type { Router } from 'express';
import type { AppOptions } from './app.js';
import { receiveArchive, sendArchive } from './archive-sent.js';
import { logged } from './claims.js';
import { mayOnlyBeRead } from './database.js';
import { heldIn } from './held.js';
import { changeHouse, house } from './house.js';
import {
  askPresent,
  changePassword,
  changePerson,
  invite,
  join,
  peopleOf,
  signOutEverywhere,
  uninvite,
} from './people.js';
import { countStale, leftToCount } from './recount.js';
import { keepFor, letGo, wouldGo } from './retention.js';
import { Desk } from './serve.js';
import { beginSecondFactor, confirmSecondFactor, endSecondFactor, hasSecondFactor } from './second-factor.js';
import { deviceOf, setDevice, setToken, tokenOf } from './session-cookie.js';
import { accountOf, SESSION_DAYS, signIn, signOut } from './sign-in.js';

const SESSION_SECONDS = SESSION_DAYS * 86_400;

export function houseRoutes({ pool, log, version }: AppOptions): Router {
  const desk = new Desk(pool);
  const session = async (account: Account | null): Promise<Session> => {
    const { demo, ...own } = await house(pool);
    return { account, house: own, demo };
  };
  desk.serve(HOUSE_ROUTES.health, async ({ res }) => {
    try {
      if (await mayOnlyBeRead(pool)) throw new Error('the database may only be read');
      return { ok: true, database: 'up', version } as const;
    } catch {
      res.status(503);
      return { ok: false, database: 'down', version } as const;
    }
  });
  desk.serve(HOUSE_ROUTES.alive, () => ({ ok: true }) as const);
  desk.serve(HOUSE_ROUTES.session, async ({ req }) => {
    const token = tokenOf(req);
    return session((token === undefined ? undefined : await accountOf(pool, token)) ?? null);
  });
  desk.serve(HOUSE_ROUTES.signIn, async ({ body: { name, password, code }, req, res }) => {
    const signedIn = await signIn(pool, { name, password, code, address: req.ip ?? '', device: deviceOf(req) });
    setToken(req, res, signedIn.token, SESSION_SECONDS);
    setDevice(req, res, signedIn.device);
    return session(signedIn.account);
  });
  desk.serve(HOUSE_ROUTES.join, async ({ body, req, res }) => {
    const { account, token } = await join(pool, body);
    setToken(req, res, token, SESSION_SECONDS);
    return session(account);
  });
  desk.serve(HOUSE_ROUTES.people, () => peopleOf(pool));
  desk.serve(HOUSE_ROUTES.held, () => heldIn(pool));
  desk.serve(HOUSE_ROUTES.keep, async ({ body: { days, look } }) => {
    if (look) return { goes: days === null ? 0 : await wouldGo(pool, days) };
    await keepFor(pool, days);
    return { goes: await letGo(pool) };
  });
  desk.send(HOUSE_ROUTES.writeArchive, ({ res }) => sendArchive(pool, res));
  desk.serve(HOUSE_ROUTES.readArchive, ({ account, query, req }) => receiveArchive(pool, account, query, req));
  desk.serve(HOUSE_ROUTES.invite, ({ account, body }) => invite(pool, account, body));
  desk.serve(HOUSE_ROUTES.uninvite, ({ body: { name } }) => uninvite(pool, name));
  desk.serve(HOUSE_ROUTES.changePerson, ({ parameters: { person }, body }) => changePerson(pool, person, body));
  desk.serve(HOUSE_ROUTES.changePassword, async ({ account, body, req, res }) => {
    setToken(req, res, await changePassword(pool, account, body), SESSION_SECONDS);
  });
  desk.serve(HOUSE_ROUTES.secondFactor, async ({ account }) => ({ on: await hasSecondFactor(pool, account.id) }));
  desk.serve(HOUSE_ROUTES.beginSecondFactor, async ({ account, body: { present } }) => {
    await askPresent(pool, account, present);
    return beginSecondFactor(pool, account);
  });
  desk.serve(HOUSE_ROUTES.confirmSecondFactor, async ({ account, body: { code } }) => ({
    spare: await confirmSecondFactor(pool, account, code),
  }));
  desk.serve(HOUSE_ROUTES.endSecondFactor, async ({ account, body: { present } }) => {
    await askPresent(pool, account, present);
    await endSecondFactor(pool, account.id);
  });
  desk.serve(HOUSE_ROUTES.signOutEverywhere, async ({ account, req, res }) => {
    await signOutEverywhere(pool, account.id);
    setToken(req, res, '', 0);
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
