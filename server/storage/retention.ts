import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { lt, sql } from 'drizzle-orm';
import type { Database } from '../db/queryable.ts';
import { art, edits, handoffs, ops, shelfPieces, shots, takes } from '../db/schema.ts';
import { logFault } from '../faults/cause.ts';

/** Days for which art is kept that no shot, history, take, shelf or hand-off names. */
export const UNUSED_ART_DAYS = 30;
/** Days for which the id of an acknowledged edit is known: one that is sent again later counts as a new one. */
export const OPS_DAYS = 90;
const DAY_MS = 24 * 60 * 60_000;
const LEVELS_ENDING = '.levels';

/**
 * Gives up art that came or was last brought in before `before` and that nothing names: no shot, not even a deleted one;
 * no edit of any history, undone and superseded ones too; no take, no piece of a shelf, no hand-off. Returns its ids.
 */
export async function dropUnusedArt(db: Database, before: Date): Promise<string[]> {
  // An id is 64 hex digits wherever it stands, so that no shape of any version of the scene can be overlooked.
  const { rows } = await db.execute<{ id: string }>(sql`
    with texts as (
      select scene::text as t from ${shots}
      union all select scene::text from ${takes}
      union all select patch::text from ${edits}
      union all select inverse::text from ${edits}
      union all select content::text from ${shelfPieces}
      union all select scene::text from ${handoffs}
    ), named as (
      select distinct found[1] as id from texts, regexp_matches(t, '[0-9a-f]{64}', 'g') as found
    )
    delete from ${art} where made_at < ${before.toISOString()}::timestamptz and id not in (select id from named)
    returning id`);
  return rows.map(({ id }) => id);
}

/** Forgets the ids of edits that were acknowledged before `before`. */
async function dropOldOps(db: Database, before: Date): Promise<void> {
  await db.delete(ops).where(lt(ops.madeAt, before));
}

/** Takes away level files, and parts of them, of art that is not stored. New ones may belong to an import under way. */
async function dropStrayLevels(db: Database, folder: string, before: Date): Promise<void> {
  const { rows } = await db.execute<{ id: string }>(sql`select id from ${art}`);
  const stored = new Set(rows.map(({ id }) => `${id}${LEVELS_ENDING}`));
  for (const name of await readdir(folder).catch(() => [])) {
    if (stored.has(name)) continue;
    const { mtime } = await stat(join(folder, name));
    if (mtime < before) await rm(join(folder, name), { force: true });
  }
}

/** All of it, as of `now`; `levels`: folder of level files. */
export async function giveUpUnused(db: Database, levels: string, now = new Date()): Promise<string[]> {
  const daysAgo = (days: number) => new Date(now.getTime() - days * DAY_MS);
  const gone = await dropUnusedArt(db, daysAgo(UNUSED_ART_DAYS));
  await dropOldOps(db, daysAgo(OPS_DAYS));
  await dropStrayLevels(db, levels, daysAgo(1));
  return gone;
}

const FIRST_AFTER_MS = 10 * 60_000;
const EVERY_MS = 12 * 60 * 60_000;

/** Gives up what is unused now and then, until the signal aborts. */
export function lookAfterUnused(db: Database, levels: string, signal: AbortSignal): void {
  const look = () => {
    giveUpUnused(db, levels).catch((error: unknown) => logFault('Unused art could not be looked for', error));
    timer = setTimeout(look, EVERY_MS).unref();
  };
  let timer = setTimeout(look, FIRST_AFTER_MS).unref();
  signal.addEventListener('abort', () => clearTimeout(timer), { once: true });
}
