/** How long tries to sign in that failed are counted, ms. */
export const TRIES_WINDOW_MS = 15 * 60_000;

/** Tries that may fail within that time. */
export const TRIES = { ofNameAtAddress: 10, ofAddress: 60, ofName: 100 } as const;
