import {
  type HandoffRequest,
  type HandoffState,
  handoffRequestSchema,
  handoffStateSchema,
} from '@keen-ridge/core/contract';
import type { Scene } from '@keen-ridge/core/scene';
import { and, asc, desc, eq, gt, inArray, lt, not, sql } from 'drizzle-orm';
import { notFound } from '../faults/problems.ts';
import { priorityOf, QUEUES } from './connection/job-queue.ts';
import { livingLocks } from './connection/life-lock.ts';
import type { Database } from './connection/queryable.ts';
import { handoffs, renderChunks } from './schema.ts';
import { sceneOf } from './shots.ts';

export interface StoredHandoff {
  readonly id: string;
  readonly shotId: string;
  readonly scene: Scene;
  readonly shotName: string;
  readonly request: HandoffRequest;
  readonly progress: HandoffState;
  readonly queueNumber: number;
  readonly deskFolder: string | null;
  readonly madeAt: Date;
}

type Row = typeof handoffs.$inferSelect;

/** Rows may have been written by an older version of the program. */
const read = (row: Row): StoredHandoff => ({
  ...row,
  scene: sceneOf(row.scene),
  request: handoffRequestSchema.parse(row.request),
  progress: handoffStateSchema.parse(row.progress),
});

const stateOf = sql<string>`${handoffs.progress}->>'state'`;
const isActive = inArray(stateOf, ['queued', 'running']);

export async function addHandoff(
  db: Database,
  added: Pick<StoredHandoff, 'shotId' | 'scene' | 'shotName' | 'request' | 'progress'>,
): Promise<string> {
  const [row] = await db.insert(handoffs).values(added).returning({ id: handoffs.id });
  return row!.id;
}

export async function readHandoff(db: Database, id: string): Promise<StoredHandoff> {
  const [row] = await db.select().from(handoffs).where(eq(handoffs.id, id));
  if (!row) throw notFound('This hand-off');
  return read(row);
}

export async function progressOf(db: Database, id: string): Promise<HandoffState | null> {
  const [row] = await db.select({ progress: handoffs.progress }).from(handoffs).where(eq(handoffs.id, id));
  return row ? handoffStateSchema.parse(row.progress) : null;
}

/**
 * Writes how far a hand-off is, as long as nobody has ended it meanwhile, and where `deskLock` is given, as long as that
 * desk holds the claim. What ends it takes its chunks along: whoever says so may not live, or hear of it, to do that
 * later. False where nothing was written.
 */
export const sayProgress = (
  db: Database,
  id: string,
  progress: HandoffState,
  deskLock?: number,
): Promise<boolean> =>
  db.transaction(async (tx) => {
    const held = deskLock === undefined ? undefined : eq(handoffs.deskLock, deskLock);
    const written = await tx
      .update(handoffs)
      .set({ progress })
      .where(and(eq(handoffs.id, id), isActive, held))
      .returning({ id: handoffs.id });
    if (written.length === 0) return false;
    const isEnded = progress.state !== 'queued' && progress.state !== 'running';
    if (isEnded) await tx.delete(renderChunks).where(eq(renderChunks.handoffId, id));
    return true;
  });

/** An ended hand-off under another name. */
export async function renameHandoff(db: Database, id: string, progress: HandoffState): Promise<void> {
  await db
    .update(handoffs)
    .set({ progress })
    .where(and(eq(handoffs.id, id), not(isActive)));
}

/** False where it is not ended. */
export async function deleteHandoff(db: Database, id: string): Promise<boolean> {
  const gone = await db
    .delete(handoffs)
    .where(and(eq(handoffs.id, id), not(isActive)))
    .returning({ id: handoffs.id });
  return gone.length > 0;
}

/** Whether there is such a hand-off, whatever is in it. */
export async function isHandoff(db: Database, id: string): Promise<boolean> {
  const rows = await db.select({ id: handoffs.id }).from(handoffs).where(eq(handoffs.id, id));
  return rows.length > 0;
}

/** Where the desk that writes, or wrote, a hand-off keeps its files. */
export interface Claim {
  readonly lock: number;
  readonly folder: string;
}

/**
 * Claims the next hand-offs whose desk does not live, `most` of them, for the desk that holds the lock. No two desks
 * get the same one. What it has claimed before, but does not write (`writing`), is claimed again: the answer to that
 * claim was lost. Returns their ids.
 */
export async function claimHandoffs(
  db: Database,
  { lock, folder }: Claim,
  writing: readonly string[],
  most: number,
): Promise<string[]> {
  const { rows } = await db.execute<{ id: string }>(
    sql`update ${handoffs} set desk_lock = ${lock}, desk_folder = ${folder} where id in (
      select id from ${handoffs} where progress->>'state' in ('queued', 'running')
        and (desk_lock is null or desk_lock = ${lock} or desk_lock not in (${livingLocks('desk')}))
        and not (${JSON.stringify(writing)}::jsonb ? id::text)
      order by queue_number limit ${most} for update skip locked) returning id`,
  );
  return rows.map(({ id }) => id);
}

/** Those of a desk's claims that it still has under a new lock, after it lost the old one with its connection. */
export async function renewClaims(
  db: Database,
  ids: readonly string[],
  old: number,
  lock: number,
): Promise<string[]> {
  if (ids.length === 0) return [];
  const rows = await db
    .update(handoffs)
    .set({ deskLock: lock })
    .where(and(inArray(handoffs.id, [...ids]), eq(handoffs.deskLock, old)))
    .returning({ id: handoffs.id });
  return rows.map(({ id }) => id);
}

/** Those that wait or run, in the order in which it is their turn; without what they are made of. */
export const activeHandoffs = (db: Database) =>
  db
    .select({ id: handoffs.id, queueNumber: handoffs.queueNumber, state: stateOf })
    .from(handoffs)
    .where(isActive)
    .orderBy(asc(handoffs.queueNumber));

const LISTED = 30;

export const listedHandoffs = (db: Database, shotId: string) =>
  db
    .select({
      id: handoffs.id,
      request: handoffs.request,
      progress: handoffs.progress,
      madeAt: handoffs.madeAt,
      place: sql<number | null>`case when ${isActive} then (select count(*)::int from ${handoffs} as ahead
        where ahead.progress->>'state' in ('queued', 'running') and ahead.queue_number <= handoffs.queue_number) end`,
    })
    .from(handoffs)
    .where(eq(handoffs.shotId, shotId))
    .orderBy(desc(handoffs.madeAt))
    .limit(LISTED);

/** Changes places with the one before or behind it; false where there is none. */
export const moveHandoff = (db: Database, id: string, way: 'sooner' | 'later'): Promise<boolean> =>
  db.transaction(async (tx) => {
    const [own] = await tx
      .select({ queueNumber: handoffs.queueNumber })
      .from(handoffs)
      .where(and(eq(handoffs.id, id), isActive))
      .for('update');
    if (!own) return false;
    const beside =
      way === 'sooner'
        ? lt(handoffs.queueNumber, own.queueNumber)
        : gt(handoffs.queueNumber, own.queueNumber);
    const [other] = await tx
      .select({ id: handoffs.id, queueNumber: handoffs.queueNumber })
      .from(handoffs)
      .where(and(isActive, beside))
      .orderBy(way === 'sooner' ? desc(handoffs.queueNumber) : asc(handoffs.queueNumber))
      .limit(1)
      .for('update');
    if (!other) return false;
    for (const [which, queueNumber] of [
      [id, other.queueNumber],
      [other.id, own.queueNumber],
    ] as const) {
      await tx.update(handoffs).set({ queueNumber }).where(eq(handoffs.id, which));
      await tx.execute(
        sql`update pgboss.job set priority = ${priorityOf(queueNumber)} where name like ${`${QUEUES}-%`} and data->>'handoffId' = ${which} and state < 'active'`,
      );
    }
    return true;
  });

export interface Chunk {
  readonly id: string;
  readonly handoffId: string;
  readonly frames: readonly { readonly item: number; readonly key: string }[];
  readonly state: string;
  /** How often a process has begun it, this time too. */
  readonly attempts: number;
}

/** Chunks as they are given to whoever draws by the build `engine`. */
export interface NewChunks {
  readonly chunks: readonly Chunk['frames'][];
  readonly engine: string;
  readonly deskLock: number;
}

/**
 * Replaces the chunks of a hand-off that the desk has claimed. Returns the new ones' ids in order; null where it has not,
 * or somebody has ended it.
 */
export const setChunks = (
  db: Database,
  handoffId: string,
  { chunks, engine, deskLock }: NewChunks,
): Promise<string[] | null> =>
  db.transaction(async (tx) => {
    const [held] = await tx
      .select({ id: handoffs.id })
      .from(handoffs)
      .where(and(eq(handoffs.id, handoffId), eq(handoffs.deskLock, deskLock), isActive))
      .for('update');
    if (!held) return null;
    await tx.delete(renderChunks).where(eq(renderChunks.handoffId, handoffId));
    const ids: string[] = [];
    for (let i = 0; i < chunks.length; i += 200) {
      const values = chunks.slice(i, i + 200).map((frames) => ({ handoffId, frames: [...frames], engine }));
      const rows = await tx.insert(renderChunks).values(values).returning({ id: renderChunks.id });
      ids.push(...rows.map(({ id }) => id));
    }
    return ids;
  });

/** Marks a chunk as being rendered by whoever holds the lock; null when it is gone, done, or for another build. */
export async function takeChunk(
  db: Database,
  id: string,
  { workerLock, engine }: { readonly workerLock: number; readonly engine: string },
): Promise<Chunk | null> {
  const [row] = await db
    .update(renderChunks)
    .set({ state: 'taken', workerLock, attempts: sql`${renderChunks.attempts} + 1` })
    .where(
      and(
        eq(renderChunks.id, id),
        eq(renderChunks.engine, engine),
        inArray(renderChunks.state, ['waiting', 'taken']),
      ),
    )
    .returning();
  return row ?? null;
}

export async function sayChunk(db: Database, id: string, framesDone: number, isDone: boolean): Promise<void> {
  await db
    .update(renderChunks)
    .set({ framesDone, ...(isDone ? { state: 'done' as const } : {}) })
    .where(eq(renderChunks.id, id));
}

/** Chunks of these hand-offs whose worker is not among the living, made free again. */
export async function freeLeftChunks(
  db: Database,
  ids: readonly string[],
  living: ReadonlyMap<number, string>,
): Promise<{ id: string; handoffId: string }[]> {
  const taken = await db
    .select({ id: renderChunks.id, handoffId: renderChunks.handoffId, lock: renderChunks.workerLock })
    .from(renderChunks)
    .where(and(eq(renderChunks.state, 'taken'), inArray(renderChunks.handoffId, [...ids])));
  const orphaned = taken.filter(({ lock }) => lock === null || !living.has(lock));
  if (orphaned.length === 0) return [];
  return db
    .update(renderChunks)
    .set({ state: 'waiting', workerLock: null })
    .where(
      and(
        eq(renderChunks.state, 'taken'),
        inArray(
          renderChunks.id,
          orphaned.map(({ id }) => id),
        ),
      ),
    )
    .returning({ id: renderChunks.id, handoffId: renderChunks.handoffId });
}

/**
 * Chunks that wait although no job stands for them: whoever took the job died before it took the chunk, or a server died
 * between writing the chunks and the jobs. A job that was taken just now is left to its worker.
 */
export async function chunksWithoutJob(db: Database): Promise<{ id: string; handoffId: string }[]> {
  const { rows } = await db.execute<{ id: string; handoffId: string }>(
    sql`select c.id, c.handoff_id as "handoffId" from ${renderChunks} c where c.state = 'waiting' and not exists (
      select 1 from pgboss.job j where j.name like ${`${QUEUES}-%`} and j.data->>'chunkId' = c.id::text
        and (j.state < 'active' or (j.state = 'active' and j.started_on > now() - interval '3 seconds')))`,
  );
  return rows;
}

/** Frames of a hand-off's chunks that are rendered, and whether any chunk is still to be done. */
export async function chunkProgress(
  db: Database,
  handoffId: string,
): Promise<{ rendered: number; open: number }> {
  const [row] = await db
    .select({
      rendered: sql<number>`coalesce(sum(${renderChunks.framesDone}), 0)::int`,
      open: sql<number>`count(*) filter (where ${renderChunks.state} <> 'done')::int`,
    })
    .from(renderChunks)
    .where(eq(renderChunks.handoffId, handoffId));
  return row ?? { rendered: 0, open: 0 };
}

/** Ended hand-offs of a shot past the newest `keep`: their rows are deleted; returns where their files lie. */
export const dropOldHandoffs = (db: Database, keep: number) =>
  db
    .delete(handoffs)
    .where(
      and(
        sql`not ${isActive}`,
        sql`${handoffs.id} in (select id from (select id, row_number() over (partition by shot_id order by made_at desc) as n from ${handoffs}) as ranked where n > ${keep})`,
      ),
    )
    .returning({ id: handoffs.id, deskFolder: handoffs.deskFolder });
