import type { SoundKind } from '@keen-ridge/core/art/sound';
import type { SoundId } from '@keen-ridge/core/scene/sound';
import { eq, sql } from 'drizzle-orm';
import type { Database, Queryable } from '../connection/queryable.ts';
import { edits, handoffs, shots, sounds, takes } from '../schema.ts';

export interface StoredSound {
  readonly id: SoundId;
  readonly kind: SoundKind;
  readonly bytes: Uint8Array;
  readonly durationSeconds: number;
  readonly peaks: Uint8Array;
}

/** Stores a sound once; one that is brought in again counts as new. */
export async function keepSound(db: Queryable, sound: StoredSound): Promise<void> {
  await db
    .insert(sounds)
    .values(sound)
    .onConflictDoUpdate({ target: sounds.id, set: { madeAt: sql`now()` } });
}

export async function readSound(db: Queryable, id: SoundId): Promise<StoredSound | null> {
  const [sound] = await db.select().from(sounds).where(eq(sounds.id, id));
  return sound ?? null;
}

/** How loud a sound is over time, without its file. */
export async function readPeaks(db: Queryable, id: SoundId): Promise<Uint8Array | null> {
  const [sound] = await db.select({ peaks: sounds.peaks }).from(sounds).where(eq(sounds.id, id));
  return sound?.peaks ?? null;
}

/** Gives up sounds that came before `before` and that no shot, take, history or hand-off names. Returns their ids. */
export async function dropUnusedSounds(db: Database, before: Date): Promise<string[]> {
  const { rows } = await db.execute<{ id: string }>(sql`
    with texts as (
      select scene->'sound'->>'id' as t from ${shots}
      union all select scene->'sound'->>'id' from ${takes}
      union all select scene->'sound'->>'id' from ${handoffs}
      union all select found[1] from ${edits}, regexp_matches(patch::text, '[0-9a-f]{64}', 'g') as found
    )
    delete from ${sounds} where made_at < ${before.toISOString()}::timestamptz
      and id not in (select t from texts where t is not null)
    returning id`);
  return rows.map(({ id }) => id);
}
