import type { NextFunction, Request, Response } from 'express';
import { ProblemError } from '../../faults/problems.ts';

const OWN_NAMES = new Set(['127.0.0.1', 'localhost', '[::1]']);

const isOwn = (host: string | undefined): boolean =>
  host !== undefined && OWN_NAMES.has(host.replace(/:\d+$/, ''));

/**
 * Answers only to this machine's own names (a foreign Host is a rebound name) and only to pages it served itself
 * (a foreign Origin is another site), so that no web page elsewhere can reach the artist's work.
 */
export function onlyOwnNames(request: Request, _response: Response, next: NextFunction): void {
  const host = request.headers.host;
  if (!isOwn(host))
    throw new ProblemError(
      'foreign-host',
      `“${host ?? ''}” is not a name of this server. Use 127.0.0.1 or localhost.`,
    );
  const { origin } = request.headers;
  if (origin !== undefined && origin !== `http://${host}`) {
    throw new ProblemError('foreign-origin', `Pages of ${origin} may not use this server.`);
  }
  if (request.headers['sec-fetch-site'] === 'cross-site' && request.method !== 'GET') {
    throw new ProblemError('foreign-origin', 'Pages of another site may not change anything here.');
  }
  next();
}

const CONTENT_POLICY = [
  "default-src 'self'",
  "script-src 'self' 'wasm-unsafe-eval'",
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' blob: data:",
  "worker-src 'self' blob:",
  "frame-ancestors 'none'",
  "base-uri 'none'",
  "form-action 'none'",
].join('; ');

/** Isolation, which shared memory needs (HTML Standard, cross-origin isolation), and a policy without the network. */
export function isolate(_request: Request, response: Response, next: NextFunction): void {
  response.set({
    'Cross-Origin-Opener-Policy': 'same-origin',
    'Cross-Origin-Embedder-Policy': 'require-corp',
    'Cross-Origin-Resource-Policy': 'same-origin',
    'Content-Security-Policy': CONTENT_POLICY,
    'X-Content-Type-Options': 'nosniff',
    'Referrer-Policy': 'no-referrer',
  });
  next();
}
