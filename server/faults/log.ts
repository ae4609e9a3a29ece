import { AsyncLocalStorage } from 'node:async_hooks';
import { pino } from 'pino';

/** Which request something is done for. */
export const requestAtHand = new AsyncLocalStorage<{ readonly id: string }>();

export const LOG_LEVELS = ['silent', 'error', 'warn', 'info', 'debug'] as const;
const asked = LOG_LEVELS.find((level) => level === process.env.KEEN_RIDGE_LOG);

/**
 * One line of JSON for each thing that is told, on standard error: when, how grave, what, and for which request. Never
 * what people made, typed or showed: no bodies, no queries, no cookies. `KEEN_RIDGE_LOG` says from which level on.
 */
export const log = pino(
  {
    level: asked ?? 'warn',
    base: null,
    timestamp: pino.stdTimeFunctions.isoTime,
    formatters: { level: (level) => ({ level }) },
    mixin: () => {
      const request = requestAtHand.getStore()?.id;
      return request === undefined ? {} : { request };
    },
  },
  { write: (line: string) => console.error(line.trimEnd()) },
);
