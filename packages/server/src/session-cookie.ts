/**
 * The session cookie: out of reach of scripts, sent by no other site.
 */
import { parseCookie, stringifySetCookie } from 'cookie';
import type { Request, Response } from 'express';

const COOKIE = 'foxtrail_session';

export const tokenOf = (req: Request): string | undefined => parseCookie(req.get('cookie') ?? '')[COOKIE];

/** Sets the cookie for so many seconds; nought takes it away. */
export function setToken(req: Request, res: Response, value: string, maxAge: number): void {
  res.setHeader(
    'Set-Cookie',
    stringifySetCookie({
      name: COOKIE,
      value,
      httpOnly: true,
      sameSite: 'lax',
      path: '/',
      maxAge,
      secure: req.secure,
    }),
  );
}
