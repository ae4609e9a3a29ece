import { lt, sql } from 'drizzle-orm';
import type { Database } from './connection/queryable.ts';
import { art, edits, handoffs, ops, sets, shelfPieces, shots, takes } from './schema.ts';

/**
 * Gives up art that came or was last brought in before `before` and that nothing names: no shot, not even a deleted one;
 * no edit of any history, undone and superseded ones too; no take, no piece of a shelf, no set, no hand-off. Returns its ids.
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
      union all select planes::text from ${sets}
      union all select scene::text from ${handoffs}
    ), named as (
      select distinct found[1] as id from texts, regexp_matches(t, '[0-9a-f]{64}', 'g') as found
    )
    delete from ${art} where made_at < ${before.toISOString()}::timestamptz and id not in (select id from named)
    returning id`);
  return rows.map(({ id }) => id);
}

/** Forgets the ids of edits that were acknowledged before `before`. */
export async function dropOldOps(db: Database, before: Date): Promise<void> {
  await db.delete(ops).where(lt(ops.madeAt, before));
}

/** The ids of all art that is stored. */
export async function storedArtIds(db: Database): Promise<Set<string>> {
  const rows = await db.select({ id: art.id }).from(art);
  return new Set(rows.map(({ id }) => id));
}
