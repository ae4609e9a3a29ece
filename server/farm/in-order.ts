/**
 * Produces items side by side, at most `limit` at once, and consumes them one by one in their order. Stops at the
 * first failure or when `signal` aborts, after what is under way has ended.
 */
export async function inOrder<I, T>(
  items: readonly I[],
  limit: number,
  produce: (item: I) => Promise<T>,
  consume: (value: T, item: I) => Promise<void>,
  signal: AbortSignal,
): Promise<void> {
  const under: Promise<T>[] = [];
  let next = 0;
  try {
    for (const item of items) {
      signal.throwIfAborted();
      while (next < items.length && under.length < limit) {
        const item = produce(items[next++]!);
        // Its failure is looked at when its turn comes; until then it is not an unhandled one.
        item.catch(() => undefined);
        under.push(item);
      }
      await consume(await under.shift()!, item);
    }
  } finally {
    await Promise.allSettled(under);
  }
}
