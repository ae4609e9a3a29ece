/** unique_violation (PostgreSQL, appendix A): what should be written is there already. */
const UNIQUE_VIOLATION = '23505';

/** Whether a query failed since something of that name is there already. */
export const isTaken = (error: unknown): boolean =>
  error instanceof Error &&
  (('code' in error && error.code === UNIQUE_VIOLATION) ||
    (error.cause !== undefined && isTaken(error.cause)));
