import { randomBytes } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import type { RequestHandler } from 'express';
import { contentPolicy } from './guard.ts';

/** Where the page reads the nonce for the style elements that its libraries make. */
const PLACE = '<meta name="style-nonce" content="" />';

/**
 * The one page of the program, with a nonce of its own in it and in its policy: style elements without it are not taken
 * (CSP Level 3, section 8.1). It is whole or not at all: a part of it is of no use, and an impossible one no fault.
 */
export const page =
  (path: string): RequestHandler =>
  async (_request, response) => {
    const html = await readFile(path, 'utf8');
    if (!html.includes(PLACE)) throw new Error(`${path} has no place for a nonce`);
    const nonce = randomBytes(16).toString('base64');
    response
      .set({ 'Content-Security-Policy': contentPolicy(nonce), 'Cache-Control': 'no-cache' })
      .type('html')
      .send(html.replace(PLACE, PLACE.replace('""', `"${nonce}"`)));
  };
