import { randomUUID } from 'node:crypto';
import type { ShotHistory } from '@keen-ridge/core/contract/archive';
import { and, asc, eq, isNotNull, isNull } from 'drizzle-orm';
import type { Queryable } from './connection/queryable.ts';
import { edits, ops, shots } from './schema.ts';

const by = ({ authorId, authorName, madeAt }: { authorId: string; authorName: string; madeAt: Date }) => ({
  authorId,
  authorName,
  madeAt: madeAt.toISOString(),
});

/** All that is known of what was done to a shot; steps of versions that did not keep what they did are not in it. */
export async function readWholeHistory(
  db: Queryable,
  shotId: string,
  revision: number,
): Promise<ShotHistory> {
  const made = await db
    .select()
    .from(edits)
    .where(and(eq(edits.shotId, shotId), isNull(edits.inverse)))
    .orderBy(asc(edits.seq));
  const steps = await db
    .select()
    .from(ops)
    .where(and(eq(ops.shotId, shotId), isNotNull(ops.patch)))
    .orderBy(asc(ops.revision));
  const known = new Set(made.map(({ id }) => id));
  return {
    revision,
    edits: made.map(({ id, seq, state, action, subject, patch, atRevision, ...rest }) => ({
      id,
      seq,
      state,
      action,
      subject,
      patch,
      atRevision,
      ...by(rest),
    })),
    steps: steps.flatMap(({ revision: made, kind, editId, patch, ...rest }) =>
      editId !== null && patch !== null && known.has(editId)
        ? [{ revision: made, kind: kind ?? 'edit', editId, patch, ...by(rest) }]
        : [],
    ),
  };
}

/** Gives a shot that was just made its history, under ids of its own: that of another store may still be here. */
export async function insertHistory(tx: Queryable, shotId: string, history: ShotHistory): Promise<void> {
  const idOf = new Map(history.edits.map(({ id }) => [id, randomUUID()]));
  await tx.update(shots).set({ revision: history.revision }).where(eq(shots.id, shotId));
  for (const { id, madeAt, ...edit } of history.edits)
    await tx.insert(edits).values({
      ...edit,
      id: idOf.get(id)!,
      shotId,
      bytes: JSON.stringify(edit.patch).length,
      madeAt: new Date(madeAt),
    });
  for (const { editId, madeAt, kind, ...step } of history.steps) {
    const edit = idOf.get(editId);
    if (!edit) continue;
    // An edit is acknowledged by its own id, a turn of one by another.
    const opId = kind === 'edit' ? edit : randomUUID();
    await tx.insert(ops).values({ ...step, kind, opId, editId: edit, shotId, madeAt: new Date(madeAt) });
  }
}
