/** The last of those who wait for a key. */
const last = new Map<string, Promise<unknown>>();

/**
 * Work on one thing, one after another within this process. Those who would wait for a row that is locked hold no connection
 * meanwhile: fifty people in ten shots would otherwise wait for one another's shots too.
 */
export async function inTurn<T>(key: string, work: () => Promise<T>): Promise<T> {
  const before = last.get(key);
  const mine = (async () => {
    // Whatever became of it: it is over.
    await before?.catch(() => undefined);
    return work();
  })();
  last.set(key, mine);
  try {
    return await mine;
  } finally {
    if (last.get(key) === mine) last.delete(key);
  }
}
