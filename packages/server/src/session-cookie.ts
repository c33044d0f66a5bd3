/**
 * The session cookie: out of reach of scripts, sent by no other site.
 */
import { parseCookie, stringifySetCookie } from 'cookie';
import type { Request, Response } from 'express';

const COOKIE = 'foxtrail_session';
/** What a device is known by after somebody has signed in there; it opens nothing by itself. */
const DEVICE = 'foxtrail_device';
const DEVICE_SECONDS = 400 * 86_400;

const cookieOf = (req: Request, name: string): string | undefined => parseCookie(req.get('cookie') ?? '')[name];

export const tokenOf = (req: Request): string | undefined => cookieOf(req, COOKIE);
export const deviceOf = (req: Request): string | undefined => cookieOf(req, DEVICE);

/** Sets the cookie for so many seconds; nought takes it away. */
export function setToken(req: Request, res: Response, value: string, maxAge: number): void {
  set(req, res, COOKIE, value, maxAge);
}

export const setDevice = (req: Request, res: Response, value: string): void =>
  set(req, res, DEVICE, value, DEVICE_SECONDS);

function set(req: Request, res: Response, name: string, value: string, maxAge: number): void {
  res.append(
    'Set-Cookie',
    stringifySetCookie({
      name,
      value,
      httpOnly: true,
      sameSite: 'lax',
      path: '/',
      maxAge,
      secure: req.secure,
    }),
  );
}
