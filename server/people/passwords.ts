import { hash, verify } from '@node-rs/argon2';
import { ProblemError } from '../faults/problems.ts';

// Argon2id (RFC 9106) with the parameters of OWASP's Password Storage Cheat Sheet, from memory: 19 MiB, two passes, one lane.
const PARAMETERS = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

/** Each takes 19 MiB and a core while it runs: more at once are refused, so that tries cannot take all memory. */
const MOST_AT_ONCE = 8;
let running = 0;

async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (running >= MOST_AT_ONCE)
    throw new ProblemError('too-often', 'Too many people sign in at once. Try again in a moment.');
  running += 1;
  try {
    return await work();
  } finally {
    running -= 1;
  }
}

/** The hash to be kept: with its salt, its parameters and its kind. */
export const hashOf = (password: string): Promise<string> =>
  inTurn(() => hash(password.normalize('NFKC'), PARAMETERS));

/** What nobody’s password is checked against, so that a name that is not there takes as long as one that is. */
let nobodys: Promise<string> | null = null;

/** Whether it is the password that was hashed; `null`, for somebody who is not there, never is, and takes as long. */
export async function isPassword(hashed: string | null, password: string): Promise<boolean> {
  nobodys ??= hash('nobody has this password', PARAMETERS);
  const against = hashed ?? (await nobodys);
  const right = await inTurn(() => verify(against, password.normalize('NFKC')));
  return hashed !== null && right;
}
