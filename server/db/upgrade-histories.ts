import { historyByRecord, type OldEdit, type Patch } from '@keen-ridge/core/history';
import { readScene } from '@keen-ridge/core/staging/check';
import { and, asc, eq, inArray, isNotNull, lt, sql } from 'drizzle-orm';
import type { Database, Queryable } from './connection/queryable.ts';
import { edits, shots } from './schema.ts';

/** Scenes before this version had lists of planes, and their edits named places in them. */
const FIRST_BY_ID = 6;

/**
 * Brings shots whose planes stand in lists to records by id, with their histories: each edit is told anew by record and
 * field. What of a history cannot be walked can no longer be undone; it stays in the log. Returns the ids of the shots.
 */
export async function upgradeHistories(db: Pick<Database, 'select' | 'transaction'>): Promise<string[]> {
  const old = await db
    .select({ id: shots.id })
    .from(shots)
    .where(lt(sql`(${shots.scene}->>'version')::int`, FIRST_BY_ID));
  for (const { id } of old) await db.transaction((tx) => upgradeHistory(tx, id));
  return old.map(({ id }) => id);
}

async function upgradeHistory(tx: Queryable, shotId: string): Promise<void> {
  const [shot] = await tx
    .select({ scene: shots.scene })
    .from(shots)
    .where(eq(shots.id, shotId))
    .for('update');
  const scene = readScene(shot?.scene);
  // One that cannot be read stays as it is: whoever opens it is told.
  if (!shot || !scene.ok) return;
  const [done, undone] = [await oldEdits(tx, shotId, 'done'), await oldEdits(tx, shotId, 'undone')];
  done.reverse();
  const history = historyByRecord({ scene: shot.scene, done: done.map(asOld), undone: undone.map(asOld) });
  const told = [...pairs(done, history.done), ...pairs(undone, history.undone)];
  for (const { id, patch } of told)
    await tx
      .update(edits)
      .set({ patch, inverse: null, bytes: JSON.stringify(patch).length })
      .where(eq(edits.id, id));
  await tx
    .update(edits)
    .set({ state: 'superseded' })
    .where(and(eq(edits.shotId, shotId), inArray(edits.state, ['done', 'undone']), isNotNull(edits.inverse)));
  await tx.update(shots).set({ scene: scene.value }).where(eq(shots.id, shotId));
}

type Row = Awaited<ReturnType<typeof oldEdits>>[number];

const oldEdits = (tx: Queryable, shotId: string, state: 'done' | 'undone') =>
  tx
    .select({ id: edits.id, patch: edits.patch, inverse: edits.inverse })
    .from(edits)
    .where(and(eq(edits.shotId, shotId), eq(edits.state, state), isNotNull(edits.inverse)))
    .orderBy(asc(edits.seq));

/** As the versions before wrote them, which is not what the column holds from now on. */
const asOld = ({ patch, inverse }: Row): OldEdit => ({ patch, inverse }) as unknown as OldEdit;

const pairs = (rows: readonly Row[], patches: readonly Patch[]) =>
  patches.map((patch, i) => ({ id: rows[i]!.id, patch }));
