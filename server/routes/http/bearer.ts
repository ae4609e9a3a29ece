import { createHash, timingSafeEqual } from 'node:crypto';

const digest = (text: string): Buffer => createHash('sha256').update(text).digest();

/** Whether a header shows the token (RFC 6750, section 2.1); never, where there is none to show. */
export const showsToken = (header: string | undefined, token: string | undefined): boolean =>
  token !== undefined &&
  header?.startsWith('Bearer ') === true &&
  timingSafeEqual(digest(header.slice('Bearer '.length)), digest(token));
