import type { RequestHandler } from 'express';
import staticGzip from 'express-static-gzip';
import { ProblemError } from '../../faults/problems.ts';

/**
 * The files of a page below `folder`, whose names change with their bytes, so that they are kept for good; gzipped where a
 * `.gz` lies beside one and the other side takes it so. Passes on a 404 where there is no such file; throws ProblemError
 * `bad-request` for an address that cannot be decoded, which the package would answer in plain text.
 */
export function assets(folder: string): RequestHandler {
  const files = staticGzip(folder, {
    index: false,
    serveStatic: { immutable: true, maxAge: '1y', fallthrough: false },
  });
  return (request, response, next) => {
    if (!canBeDecoded(request.path)) throw new ProblemError('bad-request', 'The address cannot be decoded.');
    files(request, response, next);
  };
}

function canBeDecoded(path: string): boolean {
  try {
    decodeURIComponent(path);
    return true;
  } catch (error) {
    if (error instanceof URIError) return false;
    throw error;
  }
}
