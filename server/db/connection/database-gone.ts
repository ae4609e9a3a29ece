import { sql } from 'drizzle-orm';
import { isDiskFull } from '../../faults/cause.ts';
import type { Database } from './queryable.ts';

/**
 * What is said without a code of its own: a pool that gave up, a client that broke inside a transaction, and a database
 * that is closed to everybody for a while.
 */
const GONE_WORDS =
  /Connection terminated|timeout exceeded when trying to connect|not currently accepting connections|connection error and is not queryable/i;
/** SQLSTATE classes 08 (connection) and 57P (operator intervention), no connection left (53300), and what a socket says. */
const GONE = /^(08|57P|53300$)|^(ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT)$/;

/** Whether a query failed because the server went away; the same query may succeed once it is back. */
export function isDatabaseGone(error: unknown): boolean {
  for (let fault = error; fault instanceof Error; fault = fault.cause) {
    const code = 'code' in fault ? String(fault.code) : '';
    if (GONE.test(code) || GONE_WORDS.test(fault.message)) return true;
    if (fault instanceof AggregateError && fault.errors.some(isDatabaseGone)) return true;
  }
  return false;
}

/** Resolves after so long, or as soon as `signal` aborts. */
export const pause = (ms: number, signal?: AbortSignal): Promise<void> =>
  new Promise((resolve) => {
    const done = () => {
      clearTimeout(timer);
      signal?.removeEventListener('abort', done);
      resolve();
    };
    const timer = setTimeout(done, ms);
    if (signal?.aborted) done();
    else signal?.addEventListener('abort', done);
  });

const ANSWER_MS = 2000;

/** Whether the database answers just now. */
export async function answers(db: Pick<Database, 'execute'>): Promise<boolean> {
  const asked = db.execute(sql`select 1`).then(
    () => true,
    () => false,
  );
  return Promise.race([asked, pause(ANSWER_MS).then(() => false)]);
}

export interface Patience {
  readonly forMs?: number;
  /** Gives up with the last fault once it aborts. */
  readonly signal?: AbortSignal | undefined;
  /** Waits for room on the disk too: for what must be said in the end, such as why something failed. */
  readonly forRoom?: boolean;
}

/** Tries again while the database is away, for at most `forMs`. */
export async function whenBack<T>(
  work: () => Promise<T>,
  { forMs = 120_000, signal, forRoom = false }: Patience = {},
): Promise<T> {
  // A clock that is set says nothing of how long it has been.
  const until = performance.now() + forMs;
  for (let wait = 100; ; wait = Math.min(2000, wait * 2)) {
    try {
      return await work();
    } catch (error) {
      const passes = isDatabaseGone(error) || (forRoom && isDiskFull(error));
      if (!passes || performance.now() > until || signal?.aborted) throw error;
      await pause(wait, signal);
    }
  }
}
