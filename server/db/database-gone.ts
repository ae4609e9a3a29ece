/** What is said without a code of its own: a pool that gave up, and a database that is closed to everybody for a while. */
const GONE_WORDS =
  /Connection terminated|timeout exceeded when trying to connect|not currently accepting connections/i;
/** SQLSTATE classes 08 (connection) and 57P (operator intervention), and what a socket says. */
const GONE = /^(08|57P)|^(ECONNREFUSED|ECONNRESET|EPIPE|ETIMEDOUT)$/;

/** Whether a query failed because the server went away; the same query may succeed once it is back. */
export function isDatabaseGone(error: unknown): boolean {
  for (let fault = error; fault instanceof Error; fault = fault.cause) {
    const code = 'code' in fault ? String(fault.code) : '';
    if (GONE.test(code) || GONE_WORDS.test(fault.message)) return true;
    if (fault instanceof AggregateError && fault.errors.some(isDatabaseGone)) return true;
  }
  return false;
}

const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** Tries again while the database is away, for at most `forMs`. */
export async function whenBack<T>(work: () => Promise<T>, forMs = 120_000): Promise<T> {
  const until = Date.now() + forMs;
  for (let wait = 100; ; wait = Math.min(2000, wait * 2)) {
    try {
      return await work();
    } catch (error) {
      if (!isDatabaseGone(error) || Date.now() > until) throw error;
      await pause(wait);
    }
  }
}
