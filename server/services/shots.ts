import type { HistoryEntry, Op, OpRequest, Shot } from '@keen-ridge/core/contract';
import { applyScenePatch, type Patch, patchBetween, readScene, type Scene } from '@keen-ridge/core/document';
import { and, asc, desc, eq, isNull, lte, or, sql } from 'drizzle-orm';
import type { Database, Queryable } from '../db/database.ts';
import { edits, ops, productions, shots } from '../db/schema.ts';
import { notFound, ProblemError } from './problems.ts';

/** Entries of each stack that travel with the shot, and bytes of them; older ones stay in the log. */
const HISTORY_LENGTH = 500;
const HISTORY_BYTES = 8 * 2 ** 20;

export type SetUp = Omit<Shot, 'undo' | 'redo'>;

/** A shot as it stands, without its history: for whatever only draws or hands it on. */
export async function readSetUp(db: Queryable, id: string): Promise<SetUp> {
  const [row] = await db
    .select({ shot: shots, productionName: productions.name })
    .from(shots)
    .innerJoin(productions, eq(productions.id, shots.productionId))
    .where(and(eq(shots.id, id), isNull(shots.deletedAt), isNull(productions.deletedAt)));
  if (!row) throw notFound('This shot');
  const { name, productionId, revision } = row.shot;
  return {
    id,
    name,
    productionId,
    productionName: row.productionName,
    revision,
    scene: sceneOf(row.shot.scene),
  };
}

export async function readShot(db: Database, id: string): Promise<Shot> {
  const shot = await readSetUp(db, id);
  const undo = await readStack(db, id, 'done');
  return { ...shot, undo, redo: await readStack(db, id, 'undone') };
}

/** Stored scenes are migrated as they are read. One that cannot be read is our own fault, not the client's. */
export function sceneOf(stored: unknown): Scene {
  const scene = readScene(stored);
  if (!scene.ok) throw new Error(`A stored scene cannot be read: ${JSON.stringify(scene.error)}`);
  return scene.value;
}

/** A stack with its top last: the newest done edit, or the oldest undone one. */
async function readStack(db: Queryable, shotId: string, state: 'done' | 'undone'): Promise<HistoryEntry[]> {
  const fromTop = state === 'done' ? desc(edits.seq) : asc(edits.seq);
  const nearest = db
    .select({
      id: edits.id,
      upTo: sql<number>`sum(${edits.bytes}) over (order by ${fromTop})`.as('up_to'),
      place: sql<number>`row_number() over (order by ${fromTop})`.as('place'),
    })
    .from(edits)
    .where(and(eq(edits.shotId, shotId), eq(edits.state, state)))
    .orderBy(fromTop)
    .limit(HISTORY_LENGTH)
    .as('nearest');
  const rows = await db
    .select({ action: edits.action, subject: edits.subject, patch: edits.patch, inverse: edits.inverse })
    .from(edits)
    .innerJoin(nearest, eq(nearest.id, edits.id))
    // The nearest one travels whatever its size: it must be possible to undo it.
    .where(or(lte(nearest.upTo, HISTORY_BYTES), eq(nearest.place, 1)))
    .orderBy(fromTop);
  return rows.reverse();
}

export async function readRevision(db: Database, id: string): Promise<number> {
  const [row] = await db
    .select({ revision: shots.revision })
    .from(shots)
    .where(and(eq(shots.id, id), isNull(shots.deletedAt)));
  if (!row) throw notFound('This shot');
  return row.revision;
}

/** Does one op against the revision it was made on, and returns the new revision. The same opId is done only once. */
export function applyOp(db: Database, shotId: string, request: OpRequest): Promise<number> {
  return db.transaction(async (tx) => {
    const [shot] = await tx
      .select()
      .from(shots)
      .where(and(eq(shots.id, shotId), isNull(shots.deletedAt)))
      .for('update');
    if (!shot) throw notFound('This shot');
    const [before] = await tx.select().from(ops).where(eq(ops.opId, request.opId));
    if (before && before.shotId !== shotId)
      throw new ProblemError('bad-request', `The edit ${request.opId} belongs to another shot.`);
    if (before) return before.revision;
    if (shot.revision !== request.revision) {
      const detail = `This edit was made on revision ${request.revision}; the shot is at ${shot.revision}.`;
      throw new ProblemError('stale-revision', detail, { revision: shot.revision });
    }
    const scene = await sceneAfter(tx, shotId, sceneOf(shot.scene), request);
    const revision = shot.revision + 1;
    await tx.update(shots).set({ scene, revision }).where(eq(shots.id, shotId));
    await tx.insert(ops).values({ opId: request.opId, shotId, revision });
    return revision;
  });
}

async function sceneAfter(tx: Queryable, shotId: string, scene: Scene, request: OpRequest): Promise<Scene> {
  if (request.op.kind === 'edit') return recordEdit(tx, shotId, scene, request.opId, request.op);
  const undoing = request.op.kind === 'undo';
  const [edit] = await tx
    .select()
    .from(edits)
    .where(and(eq(edits.shotId, shotId), eq(edits.state, undoing ? 'done' : 'undone')))
    .orderBy(undoing ? desc(edits.seq) : asc(edits.seq))
    .limit(1);
  if (!edit) throw new ProblemError('nothing-to-undo', `There is nothing to ${request.op.kind}.`);
  await tx
    .update(edits)
    .set({ state: undoing ? 'undone' : 'done' })
    .where(eq(edits.id, edit.id));
  return patched(scene, undoing ? edit.inverse : edit.patch);
}

async function recordEdit(
  tx: Queryable,
  shotId: string,
  scene: Scene,
  id: string,
  op: Extract<Op, { kind: 'edit' }>,
): Promise<Scene> {
  const after = patched(scene, op.patch);
  await tx
    .update(edits)
    .set({ state: 'superseded' })
    .where(and(eq(edits.shotId, shotId), eq(edits.state, 'undone')));
  const [last] = await tx
    .select({ seq: sql<number>`coalesce(max(${edits.seq}), 0)::int` })
    .from(edits)
    .where(eq(edits.shotId, shotId));
  const inverse = patchBetween(after, scene);
  const { action, subject, patch } = op;
  const bytes = JSON.stringify(patch).length + JSON.stringify(inverse).length;
  const seq = (last?.seq ?? 0) + 1;
  await tx.insert(edits).values({ id, shotId, seq, action, subject, patch, inverse, bytes });
  return after;
}

function patched(scene: Scene, patch: Patch): Scene {
  const after = applyScenePatch(scene, patch);
  if (after.ok) return after.value;
  const detail = 'detail' in after.error ? after.error.detail : after.error.code;
  throw new ProblemError('edit-refused', `The edit would leave a shot that is not valid: ${detail}`);
}
