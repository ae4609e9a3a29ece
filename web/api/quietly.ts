import pLimit from 'p-limit';

/**
 * At once of a kind. A browser opens six connections to one server over HTTP/1.1 (Chromium's limit; from memory), and an
 * answer that has to be computed holds one: what an artist asks for must find one free.
 */
const AT_ONCE = 2;

const counts = pLimit(AT_ONCE);
const pictures = pLimit(AT_ONCE);

const inTurn =
  (limit: typeof counts) =>
  <T>(work: () => Promise<T>, signal: AbortSignal): Promise<T> =>
    limit(() => {
      signal.throwIfAborted();
      return work();
    });

/** Asks for what stands on many tiles and nobody waits for, two at once; rejects with the signal's reason. */
export const countQuietly = inTurn(counts);
/** The same for pictures; `work` ends when the picture is there. */
export const showQuietly = inTurn(pictures);
