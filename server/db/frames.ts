import { and, eq, inArray, lt, type SQL, sql } from 'drizzle-orm';
import type { Database } from './connection/queryable.ts';
import { renderedFrames } from './schema.ts';

/** Most bytes of rendered frames that are kept once they are not in use. */
const KEEP_BYTES = Number(process.env.KEEN_RIDGE_FRAMES_MB ?? 4096) * 2 ** 20;
/** Frames that were read or planned for this lately are never given up, ms. */
const IN_USE_MS = 15 * 60_000;
const LOOKED_UP_AT_ONCE = 1000;

/** These rows, locked in the order of their keys: two who want some of the same would else wait for each other. */
const lockedInOrder = (db: Database, which: SQL | undefined) =>
  db
    .select({ key: renderedFrames.key })
    .from(renderedFrames)
    .where(which)
    .orderBy(renderedFrames.key)
    .for('update');

/** Which of these keys are there. Those that are count as used now. */
export async function touchFrames(db: Database, keys: readonly string[]): Promise<Set<string>> {
  const there = new Set<string>();
  for (let i = 0; i < keys.length; i += LOOKED_UP_AT_ONCE) {
    const some = keys.slice(i, i + LOOKED_UP_AT_ONCE);
    const rows = await db
      .update(renderedFrames)
      .set({ usedAt: sql`now()` })
      .where(inArray(renderedFrames.key, lockedInOrder(db, inArray(renderedFrames.key, some))))
      .returning({ key: renderedFrames.key });
    for (const { key } of rows) there.add(key);
  }
  return there;
}

export async function readFrame(db: Database, key: string): Promise<Uint8Array | null> {
  const [row] = await db
    .select({ png: renderedFrames.png })
    .from(renderedFrames)
    .where(eq(renderedFrames.key, key));
  return row?.png ?? null;
}

export async function hasFrame(db: Database, key: string): Promise<boolean> {
  const rows = await db
    .select({ key: renderedFrames.key })
    .from(renderedFrames)
    .where(eq(renderedFrames.key, key));
  return rows.length > 0;
}

/** Keeps a frame; one that is there already stays as it is, for its key names its pixels. */
export async function keepFrame(db: Database, key: string, png: Uint8Array): Promise<void> {
  await db.insert(renderedFrames).values({ key, png, bytes: png.byteLength }).onConflictDoNothing();
}

/** Gives up the frames that were not used for longest until at most KEEP_BYTES are left; none that are in use. */
export async function pruneFrames(db: Database, keepBytes = KEEP_BYTES, now = Date.now()): Promise<number> {
  const rest = db
    .select({
      key: renderedFrames.key,
      upTo: sql<number>`sum(${renderedFrames.bytes}) over (order by ${renderedFrames.usedAt} desc, ${renderedFrames.key})`.as(
        'up_to',
      ),
    })
    .from(renderedFrames)
    .as('rest');
  const given = await db
    .delete(renderedFrames)
    .where(
      inArray(
        renderedFrames.key,
        lockedInOrder(
          db,
          and(
            lt(renderedFrames.usedAt, new Date(now - IN_USE_MS)),
            inArray(
              renderedFrames.key,
              db.select({ key: rest.key }).from(rest).where(sql`${rest.upTo} > ${keepBytes}`),
            ),
          ),
        ),
      ),
    )
    .returning({ key: renderedFrames.key });
  return given.length;
}
