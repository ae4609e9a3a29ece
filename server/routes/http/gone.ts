import type { Response } from 'express';

/** Ends when the other side has gone before it was answered. */
export function goneSignal(response: Response): AbortSignal {
  const abort = new AbortController();
  response.on('close', () => {
    if (!response.writableFinished) abort.abort(new DOMException('The other side has gone', 'AbortError'));
  });
  return abort.signal;
}
