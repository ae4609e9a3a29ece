import { historyEntrySchema, NOBODY, patchSchema } from '@keen-ridge/core/history';
import { z } from 'zod';
import { parseOrNull } from '../api/client.ts';
import { readStored, store, storedNames } from '../api/storage/browser-storage.ts';

/** Ops that the server has not answered, made on a revision that was known. */
const unsentSchema = z.object({
  revision: z.int(),
  ops: z.array(
    z.object({
      opId: z.uuid(),
      kind: z.enum(['edit', 'undo', 'redo']),
      entry: historyEntrySchema,
      patch: patchSchema,
    }),
  ),
});
export type Unsent = z.infer<typeof unsentSchema>;

const keyOf = (shotId: string, windowId: string) => `keen-ridge/unsent/${shotId}/${windowId}`;
const lockOf = (windowId: string) => `keen-ridge/window/${windowId}`;

/** Keeps what a window has not sent in the browser's storage, so that a closed tab loses nothing. */
export function keepUnsent(shotId: string, windowId: string, unsent: Unsent): void {
  // Where it is too large for the browser's storage it is sent from memory alone.
  store(keyOf(shotId, windowId), unsent.ops.length === 0 ? null : JSON.stringify(unsent));
}

/** Says that a window lives until it is closed or the returned function is called: nobody else takes up its edits. */
export function markAlive(windowId: string): () => void {
  let end = () => {};
  const ended = new Promise<void>((resolve) => {
    end = resolve;
  });
  void navigator.locks?.request(lockOf(windowId), () => ended);
  return end;
}

/** Where no locks are to be had, sending twice what a window still has does no harm: an op is done once. */
const isGone = async (windowId: string): Promise<boolean> =>
  navigator.locks
    ? navigator.locks.request(lockOf(windowId), { ifAvailable: true }, (lock) => lock !== null)
    : true;

export interface LeftUnsent {
  readonly left: readonly Unsent[];
  /** Lists that cannot be read. */
  readonly unreadable: number;
  /** Names under which all of it lies in storage, until `forgetUnsent` takes it away. */
  readonly names: readonly string[];
}

/** Nobody may send for another: what is taken back or made again may be anybody's, an edit is its author's. */
const isOf = ({ ops }: Unsent, own: ReadonlySet<string>): boolean =>
  ops.every(
    ({ kind, entry: { author } }) => kind !== 'edit' || author.id === NOBODY.id || own.has(author.id),
  );

/**
 * What windows that are gone have left unsent of a shot. It stays where it is until another window keeps it; what is
 * not of the authors in `own` waits for theirs.
 */
export async function readLeftUnsent(shotId: string, own: ReadonlySet<string>): Promise<LeftUnsent> {
  const older = `keen-ridge/pending/${shotId}`;
  const prefix = keyOf(shotId, '');
  const keys = storedNames();
  const left: Unsent[] = [];
  // What the version before left names places in lists that are no more.
  const names = readStored(older) === null ? [] : [older];
  let unreadable = names.length;
  for (const key of keys.filter((name) => name.startsWith(prefix))) {
    if (!(await isGone(key.slice(prefix.length)))) continue;
    const text = readStored(key);
    // Another window that opens has taken it up while it was asked whether its own is gone.
    if (text === null) continue;
    const read = unsentSchema.safeParse(parseOrNull(text));
    if (read.success && !isOf(read.data, own)) continue;
    names.push(key);
    if (read.success) left.push(read.data);
    else unreadable += 1;
  }
  return { left, unreadable, names };
}

export function forgetUnsent(names: readonly string[]): void {
  for (const name of names) store(name, null);
}
