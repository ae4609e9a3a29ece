import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { HANDOFF_FORMATS } from '@keen-ridge/core/export';
import { forgetDeadWorkers } from '../db/connection/life-lock.ts';
import type { Database } from '../db/connection/queryable.ts';
import { pruneFrames } from '../db/frames.ts';
import { dropOldHandoffs } from '../db/handoffs.ts';

/** A part that nobody has written to for so long was left by a server that died. */
const LEFT_PART_MS = 10 * 60_000;
/** Ended hand-offs that are kept for each shot, with their files. */
const KEPT_PER_SHOT = 30;

/** Files and rows of old hand-offs, parts that a killed server left, and frames not used for long are given up. */
export async function pruneHandoffs(
  db: Database,
  folder: string,
  written: ReadonlyMap<string, unknown>,
): Promise<void> {
  const dropped = await dropOldHandoffs(db, KEPT_PER_SHOT);
  const endings = new Set(Object.values(HANDOFF_FORMATS).map(({ extension }) => `.${extension}`));
  for (const { id, deskFolder } of dropped)
    for (const ending of ['', ...endings])
      await rm(join(deskFolder ?? folder, `${id}${ending}`), { recursive: true, force: true });
  for (const name of await readdir(folder)) {
    if (!name.endsWith('.part') || [...written.keys()].some((id) => name.startsWith(id))) continue;
    const part = join(folder, name);
    const writtenAt = await stat(part).then(
      ({ mtimeMs }) => mtimeMs,
      () => Date.now(),
    );
    if (Date.now() - writtenAt > LEFT_PART_MS) await rm(part, { recursive: true, force: true });
  }
  await forgetDeadWorkers(db);
  await pruneFrames(db);
}
