import { createHash, randomBytes } from 'node:crypto';
import { parse } from 'cookie';
import type { Request, Response } from 'express';
import { SESSION_DAYS } from '../db/people/sessions.ts';

const DAY_MS = 24 * 60 * 60_000;

/** A browser keeps a name that begins so only from a secure page of this very host (RFC 6265bis, section 4.1.3.2). */
const nameFor = (request: Request): string => (request.secure ? '__Host-keen-ridge' : 'keen-ridge');

const options = (request: Request) =>
  ({ httpOnly: true, sameSite: 'strict', secure: request.secure, path: '/' }) as const;

/** What is kept of a token: a copy of the table lets nobody in. */
const kept = (token: string): string => createHash('sha256').update(token).digest('hex');

/** A token as no one can guess it, given to the browser; returns what is kept of it. */
export function giveToken(request: Request, response: Response): string {
  const token = randomBytes(32).toString('base64url');
  response.cookie(nameFor(request), token, { ...options(request), maxAge: SESSION_DAYS * DAY_MS });
  return kept(token);
}

export function takeTokenBack(request: Request, response: Response): void {
  response.clearCookie(nameFor(request), options(request));
}

/** What is kept of the token that a request shows; null where it shows none. */
export function tokenOf(request: Request): string | null {
  const token = parse(request.headers.cookie ?? '')[nameFor(request)];
  return token === undefined || token.length > 100 ? null : kept(token);
}
