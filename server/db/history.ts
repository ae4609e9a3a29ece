import type { OpRequest } from '@keen-ridge/core/contract';
import {
  type HistoryEntry,
  NOBODY,
  type Op,
  type Patch,
  type Revision,
  sameData,
} from '@keen-ridge/core/history';
import { and, asc, desc, eq, getTableColumns, gt, inArray, isNull, lte, or, sql } from 'drizzle-orm';
import { CHANNELS, sayTo } from './connection/channels.ts';
import type { Queryable } from './connection/queryable.ts';
import { edits, ops, shots } from './schema.ts';

/** Entries of each stack that travel with the shot, and bytes of them; older ones stay in the log. */
const HISTORY_LENGTH = 500;
const HISTORY_BYTES = 8 * 2 ** 20;
export type StoredEdit = typeof edits.$inferSelect;

/** The shot's row, locked until the transaction ends; undefined where it does not exist or was deleted. */
export async function lockShot(tx: Queryable, id: string) {
  const [shot] = await tx
    .select()
    .from(shots)
    .where(and(eq(shots.id, id), isNull(shots.deletedAt)))
    .for('update');
  return shot;
}

export async function findOp(tx: Queryable, opId: string) {
  const [op] = await tx
    .select({ shotId: ops.shotId, revision: ops.revision })
    .from(ops)
    .where(eq(ops.opId, opId));
  return op;
}

export async function findEdit(tx: Queryable, shotId: string, id: string): Promise<StoredEdit | undefined> {
  const [edit] = await tx
    .select()
    .from(edits)
    .where(and(eq(edits.id, id), eq(edits.shotId, shotId)));
  return edit;
}

/** Edits that `author` may undo or redo: one's own, and those that are nobody's. */
const ownedBy = (author: string) => inArray(edits.authorId, [author, NOBODY.id]);

/** A stack with its top last: the edit that was last done, or last undone. */
export async function readStack(
  db: Queryable,
  shotId: string,
  state: 'done' | 'undone',
  author: string,
): Promise<HistoryEntry[]> {
  const nearest = db
    .select({
      id: edits.id,
      upTo: sql<number>`sum(${edits.bytes}) over (order by ${desc(edits.atRevision)})`.as('up_to'),
      place: sql<number>`row_number() over (order by ${desc(edits.atRevision)})`.as('place'),
    })
    .from(edits)
    .where(and(eq(edits.shotId, shotId), eq(edits.state, state), ownedBy(author)))
    .orderBy(desc(edits.atRevision))
    .limit(HISTORY_LENGTH)
    .as('nearest');
  const rows = await db
    .select(getTableColumns(edits))
    .from(edits)
    .innerJoin(nearest, eq(nearest.id, edits.id))
    // The nearest one travels whatever its size: it must be possible to undo it.
    .where(or(lte(nearest.upTo, HISTORY_BYTES), eq(nearest.place, 1)))
    .orderBy(asc(edits.atRevision));
  return rows.map((edit) => entryOf(edit, edit));
}

const entryOf = (
  edit: Pick<StoredEdit, 'id' | 'action' | 'subject' | 'patch'>,
  by: Pick<StoredEdit, 'authorId' | 'authorName' | 'madeAt'>,
): HistoryEntry => ({
  id: edit.id,
  action: edit.action,
  subject: edit.subject,
  patch: edit.patch,
  author: { id: by.authorId, name: by.authorName },
  at: by.madeAt.toISOString(),
});

/** Steps after a revision, oldest first; steps of versions that did not keep what they did are left out. */
export const readSteps = (db: Queryable, shotId: string, after: number): Promise<Revision[]> =>
  steps(db, and(eq(ops.shotId, shotId), gt(ops.revision, after)));

/** The newest steps of a shot, the newest first. */
export const newestSteps = (db: Queryable, shotId: string, atMost: number): Promise<Revision[]> =>
  steps(db, eq(ops.shotId, shotId), atMost);

async function steps(db: Queryable, which: ReturnType<typeof and>, newest?: number): Promise<Revision[]> {
  const query = db
    .select({ op: ops, edit: edits })
    .from(ops)
    .innerJoin(edits, eq(edits.id, ops.editId))
    .where(which)
    .orderBy(newest === undefined ? asc(ops.revision) : desc(ops.revision));
  const rows = await (newest === undefined ? query : query.limit(newest));
  return rows.map(({ op, edit }) => ({
    revision: op.revision,
    opId: op.opId,
    kind: op.kind ?? 'edit',
    entry: entryOf(edit, op),
    patch: sameData(op.patch, edit.patch) ? null : (op.patch ?? []),
  }));
}

/** A step of a shot as it was landed. */
export interface Step {
  readonly shotId: string;
  readonly request: OpRequest;
  readonly editId: string;
  readonly scene: typeof shots.$inferSelect.scene;
  readonly patch: Patch;
  /** The one that it makes. */
  readonly revision: number;
}

/** Keeps a step that turns an edit: the scene, the op, and who did it; whoever listens hears of it once the transaction ends. */
export async function keepStep(tx: Queryable, step: Step): Promise<void> {
  const { shotId, request, editId, scene, patch, revision } = step;
  const { opId, op, author } = request;
  await tx.update(shots).set({ scene, revision }).where(eq(shots.id, shotId));
  await tx.insert(ops).values({
    opId,
    shotId,
    revision,
    kind: op.kind,
    editId,
    patch,
    authorId: author.id,
    authorName: author.name,
  });
  await sayTo(tx, 'revision', shotId);
}

/** What an edit is put on top of, read without a lock, with what is known of its op; undefined where there is no such shot. */
export async function readForEdit(db: Queryable, shotId: string, opId: string) {
  const [shot] = await db
    .select({
      scene: shots.scene,
      revision: shots.revision,
      /** The shot that an op of that id was taken for already. */
      takenFor: sql<string | null>`(select shot_id from ${ops} where op_id = ${opId})`,
    })
    .from(shots)
    .where(and(eq(shots.id, shotId), isNull(shots.deletedAt)));
  return shot;
}

/**
 * Keeps a new edit, in one statement: the scene, the edit, its op, and that its author's undone edits are given up; whoever
 * listens hears of it. Null, and nothing is kept, where the shot is no longer at the revision before.
 */
export async function keepEdit(
  db: Queryable,
  { shotId, request, scene, patch, revision }: Omit<Step, 'editId'>,
  { action, subject }: Extract<Op, { kind: 'edit' }>,
): Promise<Revision | null> {
  const { opId, author } = request;
  const [sceneText, patchText] = [JSON.stringify(scene), JSON.stringify(patch)];
  const { rows } = await db.execute<{ at: Date }>(sql`
    with here as (
      update ${shots} set scene = ${sceneText}::jsonb, revision = ${revision}
      where id = ${shotId} and revision = ${revision - 1} and deleted_at is null returning id
    ), given_up as (
      update ${edits} set state = 'superseded'
      where shot_id = ${shotId} and state = 'undone' and author_id in (${author.id}, ${NOBODY.id})
        and exists (select from here)
    ), made as (
      insert into ${edits} (id, shot_id, seq, action, subject, patch, bytes, at_revision, author_id, author_name)
      select ${opId}::uuid, id, (select coalesce(max(seq), 0) + 1 from ${edits} where shot_id = ${shotId}), ${action},
        ${subject}, ${patchText}::jsonb, ${patchText.length}, ${revision}, ${author.id}, ${author.name}
      from here
    ), said as (
      insert into ${ops} (op_id, shot_id, revision, kind, edit_id, patch, author_id, author_name)
      select ${opId}::uuid, id, ${revision}, 'edit', ${opId}::uuid, ${patchText}::jsonb, ${author.id}, ${author.name}
      from here returning made_at
    )
    select made_at as at, pg_notify(${CHANNELS.revision}, ${shotId}) from said`);
  const [kept] = rows;
  if (!kept) return null;
  const entry = { id: opId, action, subject, patch, author, at: new Date(kept.at).toISOString() };
  return { revision, opId, kind: 'edit', entry, patch: null };
}

/** An edit that was taken back or made again, by whom it belongs to from now on. */
export async function turnEdit(
  tx: Queryable,
  id: string,
  state: 'done' | 'undone',
  { author }: OpRequest,
  { patch, revision }: { readonly patch?: Patch; readonly revision: number },
): Promise<void> {
  await tx
    .update(edits)
    .set({
      state,
      atRevision: revision,
      authorId: author.id,
      authorName: author.name,
      ...(patch ? { patch, bytes: JSON.stringify(patch).length } : {}),
    })
    .where(eq(edits.id, id));
}
