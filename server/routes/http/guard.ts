import type { NextFunction, Request, Response } from 'express';
import { ProblemError } from '../../faults/problems.ts';

const OWN_NAMES = ['127.0.0.1', 'localhost', '[::1]'];

/**
 * Answers only to its own names (a foreign Host is a rebound name) and only to pages it served itself (a foreign Origin
 * is another site), so that no web page elsewhere can reach the artist's work. `names`: those beside this machine's own.
 */
export function onlyOwnNames(names: readonly string[]) {
  const own = new Set([...OWN_NAMES, ...names.map((name) => name.toLowerCase())]);
  return (request: Request, _response: Response, next: NextFunction): void => {
    const { host, origin } = request.headers;
    // Of two the parser keeps the first, and what stands before this server may have gone by the other (RFC 9112, section 3.2).
    const hosts = request.rawHeaders.filter((name, i) => i % 2 === 0 && name.toLowerCase() === 'host').length;
    if (host === undefined || hosts > 1 || !own.has(host.toLowerCase().replace(/:\d+$/, '')))
      throw new ProblemError(
        'foreign-host',
        `“${(host ?? '').slice(0, 100)}” is not a name of this server. Use ${names[0] ?? '127.0.0.1 or localhost'}.`,
      );
    if (origin !== undefined && origin !== `${request.protocol}://${host}`)
      throw new ProblemError('foreign-origin', `Pages of ${origin.slice(0, 200)} may not use this server.`);
    if (request.headers['sec-fetch-site'] === 'cross-site' && request.method !== 'GET')
      throw new ProblemError('foreign-origin', 'Pages of another site may not change anything here.');
    next();
  };
}

/** What a page may load and run. `nonce`: by which it takes style elements; none without. */
export const contentPolicy = (nonce: string | null): string =>
  [
    "default-src 'self'",
    "script-src 'self' 'wasm-unsafe-eval'",
    nonce === null ? "style-src 'self'" : `style-src 'self' 'nonce-${nonce}'`,
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
    'Content-Security-Policy': contentPolicy(null),
    'X-Content-Type-Options': 'nosniff',
    'Referrer-Policy': 'no-referrer',
  });
  next();
}
