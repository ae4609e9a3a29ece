import { log } from './log.ts';

/** Longest cause that is told or logged, in characters: what failed is named, what it failed on is not carried along. */
const LONGEST_CAUSE = 300;
const LONGEST_STACK = 2000;

/** What the query library says before its cause holds every parameter of the query, frames of a film among them. */
const isQueryFault = (error: Error): boolean => error.name === 'DrizzleQueryError' || 'query' in error;

/** The fault behind a failed query; any other error as it is. */
const rootOf = (error: unknown): unknown =>
  error instanceof Error && isQueryFault(error) && error.cause instanceof Error ? rootOf(error.cause) : error;

/** One short line that says what went wrong, without the contents that it went wrong on. */
export function causeOf(error: unknown): string {
  const root = rootOf(error);
  const words = root instanceof Error ? root.message || root.name : String(root);
  const line = words.split('\n')[0] ?? '';
  return line.length > LONGEST_CAUSE ? `${line.slice(0, LONGEST_CAUSE)} …` : line;
}

/** Writes a fault to the log: where, the short cause, and the places in the code. */
export function logFault(where: string, error: unknown): void {
  const root = rootOf(error);
  const stack = root instanceof Error ? (root.stack ?? '') : '';
  const places = stack
    .split('\n')
    .filter((line) => /^\s+at /.test(line))
    .join('\n');
  log.error({ where, places: places.slice(0, LONGEST_STACK) }, `${where}: ${causeOf(error)}`);
}

/** The file system's and PostgreSQL's (SQLSTATE 53100, disk_full) words for no room. */
const NO_ROOM = new Set(['ENOSPC', 'EDQUOT', '53100']);
const NO_ROOM_WORDS = /No space left on device/i;

/** Whether something failed because the disk is full, whoever found it. */
export function isDiskFull(error: unknown): boolean {
  for (let fault = error; fault instanceof Error; fault = fault.cause) {
    if ('code' in fault && NO_ROOM.has(String(fault.code))) return true;
    if (!isQueryFault(fault) && NO_ROOM_WORDS.test(fault.message)) return true;
  }
  return false;
}
