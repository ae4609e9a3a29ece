import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { artOfEdge } from '@keen-ridge/core/picture';
import type { Database } from '../db/connection/queryable.ts';
import { dropUnusedSounds } from '../db/kept/sounds.ts';
import { dropOldOps, dropUnusedArt, storedArtIds } from '../db/retention.ts';
import { logFault } from '../faults/cause.ts';

/** Days for which art and sounds are kept that no shot, history, take, shelf or hand-off names. */
export const UNUSED_ART_DAYS = 30;
/** Days for which the id of an acknowledged edit is known: one that is sent again later counts as a new one. */
export const OPS_DAYS = 90;
const DAY_MS = 24 * 60 * 60_000;
const LEVELS_ENDING = '.levels';

/** Takes away level files, and parts of them, of art that is not stored. New ones may belong to an import under way. */
async function dropStrayLevels(db: Database, folder: string, before: Date): Promise<void> {
  const stored = await storedArtIds(db);
  for (const name of await readdir(folder).catch(() => [])) {
    const of = name.endsWith(LEVELS_ENDING) ? name.slice(0, -LEVELS_ENDING.length) : null;
    // The distances to an edge go with the art.
    if (of && stored.has(artOfEdge(of)?.artId ?? of)) continue;
    const { mtime } = await stat(join(folder, name));
    if (mtime < before) await rm(join(folder, name), { force: true });
  }
}

/** All of it, as of `now`; `levels`: folder of level files. */
export async function giveUpUnused(db: Database, levels: string, now = new Date()): Promise<string[]> {
  const daysAgo = (days: number) => new Date(now.getTime() - days * DAY_MS);
  const gone = await dropUnusedArt(db, daysAgo(UNUSED_ART_DAYS));
  await dropUnusedSounds(db, daysAgo(UNUSED_ART_DAYS));
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
