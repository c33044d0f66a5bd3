/**
 * Serving the contract: who asks, what is asked and what is answered are checked and typed by the route itself.
 */
import {
  PARAMETERS,
  parameterNames,
  type Access,
  type Account,
  type AnswerSent,
  type BodyRead,
  type ParametersOf,
  type QueryRead,
  type Role,
  type Route,
} from '@foxtrail/contract';
import { refusalOf } from '@foxtrail/core';
import express, { Router, type Request, type RequestHandler, type Response } from 'express';
import type pg from 'pg';
import type * as z from 'zod';
import { AskedByKey } from './asked-together.js';
import { accountOf } from './sign-in.js';
import { oddText } from './odd-text.js';
import { HttpProblem, notFound, refused } from './problem.js';
import { tokenOf } from './session-cookie.js';
import { WaitingRoom } from './waiting-room.js';

/** A request as a handler meets it: everything in it has been checked. */
export interface Asked<R extends Route> {
  readonly account: R extends { readonly access: 'anyone' } ? undefined : Account;
  readonly parameters: ParametersOf<R>;
  readonly query: QueryRead<R>;
  readonly body: BodyRead<R>;
  readonly req: Request;
  readonly res: Response;
}

/** What a handler returns: the answer, or nothing where the route has none. */
type Answered<R extends Route> = undefined extends AnswerSent<R> ? unknown : AnswerSent<R>;

export class Desk {
  readonly routes = Router();
  private readonly json: RequestHandler;
  /** A page asks for much at once, all of it in one name. */
  private readonly accounts = new AskedByKey((token) => accountOf(this.pool, token));

  /** `bodyLimit`: the longest request taken, as Express has it. */
  constructor(
    private readonly pool: pg.Pool,
    bodyLimit = '100kb',
  ) {
    this.json = express.json({ limit: bodyLimit });
  }

  /** Answers a route with what its handler returns. */
  serve<R extends Route>(route: R, handle: (asked: Asked<R>) => Promise<Answered<R>> | Answered<R>): void {
    this.on(route, async (asked) => {
      const answer = await handle(asked);
      // A handler that has set a status of its own, of a server that is not well, keeps it.
      if (asked.res.statusCode === 200) asked.res.status(route.status ?? (route.answer === undefined ? 204 : 200));
      if (route.answer === undefined) asked.res.end();
      else asked.res.json(answer);
    });
  }

  /** Lets a handler send what is no JSON: pictures, captions, clips, files. */
  send<R extends Route>(route: R, handle: (asked: Asked<R>) => Promise<void> | void): void {
    this.on(route, handle);
  }

  private on<R extends Route>(route: R, handle: (asked: Asked<R>) => Promise<void> | void): void {
    const path = route.path.replace(/\{(\w+)\}/g, ':$1');
    const before = route.body === undefined ? [] : [this.json];
    this.routes[route.method](path, ...before, async (req: Request, res: Response) => {
      const account = await this.asking(req, route.access ?? 'account');
      const asked = {
        account,
        parameters: parametersIn(route, req),
        query: route.query === undefined ? undefined : checked(route.query, req.query),
        body: route.body === undefined ? undefined : checked(route.body, req.body),
        req,
        res,
      };
      const work = async (): Promise<void> => handle(asked as unknown as Asked<R>);
      await (route.costly && account ? atOnce(`${route.costly} of ${account.id}`, work) : work());
    });
  }

  /** Who asks, where that matters. */
  private async asking(req: Request, access: Access): Promise<Account | undefined> {
    if (access === 'anyone') return undefined;
    const token = tokenOf(req);
    const account = token === undefined ? undefined : await this.accounts.now(token);
    if (!account)
      throw new HttpProblem(
        401,
        'signed-out',
        'session',
        'You are not signed in, or your session has ended.',
        'Sign in; what you have drawn is kept.',
      );
    const lacks = NOT_LET[account.role][access];
    if (lacks) throw new HttpProblem(403, lacks.code, account.name, lacks.reason, lacks.remedy);
    return account;
  }
}

/** So much of a kind that costs much is done at once for an account; so much more waits. */
const AT_ONCE = 6;
const SEATS = 24;
const rooms = new Map<string, WaitingRoom>();
const tooMuch = (): HttpProblem =>
  new HttpProblem(
    429,
    'too-much-at-once',
    'account',
    'Your account asks for much at once.',
    'Wait until some of it is done, then try again.',
    {},
    { 'Retry-After': '3' },
  );

/** Does what costs much in the account's turn: one who asks for a thousand saves at once holds up only themselves. */
async function atOnce(whose: string, work: () => Promise<void>): Promise<void> {
  const room = rooms.get(whose) ?? new WaitingRoom(AT_ONCE, SEATS, tooMuch);
  rooms.set(whose, room);
  try {
    await room.enter(work);
  } finally {
    if (room.isEmpty) rooms.delete(whose);
  }
}

/** Why somebody is not let do what others are. */
interface NotLet {
  readonly code: string;
  readonly reason: string;
  readonly remedy: string;
}
const NO_OWNER: NotLet = {
  code: 'not-an-owner',
  reason: 'Only an owner of the house manages its accounts.',
  remedy: 'Ask an owner.',
};
const notAnAuthor = (who: string): NotLet => ({
  code: 'not-an-author',
  reason: `${who} reads drafts but does not change them.`,
  remedy: 'Ask an author to make the change.',
});
const NO_REVIEWER: NotLet = {
  code: 'not-a-reviewer',
  reason: 'A reader reads drafts but does not review them.',
  remedy: 'Ask an owner to be made a reviewer.',
};
const NOT_LET: Readonly<Record<Role, Partial<Record<Access, NotLet>>>> = {
  owner: {},
  author: { owner: NO_OWNER },
  reviewer: { owner: NO_OWNER, author: notAnAuthor('A reviewer') },
  reader: { owner: NO_OWNER, author: notAnAuthor('A reader'), reviewer: NO_REVIEWER },
};

function parametersIn(route: Route, req: Request): Readonly<Record<string, unknown>> {
  return Object.fromEntries(
    parameterNames(route.path).map((name) => {
      const { type, names } = PARAMETERS[name];
      if (oddText(req.params[name])) throw notFound(names);
      const read = type.safeParse(req.params[name]);
      if (!read.success) throw notFound(names);
      return [name, read.data];
    }),
  );
}

function checked(type: z.ZodType, data: unknown): unknown {
  const odd = oddText(data);
  if (odd) throw refused(odd);
  const read = type.safeParse(data);
  if (!read.success) throw refused(refusalOf(read.error));
  return read.data;
}
