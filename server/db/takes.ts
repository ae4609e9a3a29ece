import type { KeptEase, Take } from '@keen-ridge/core/contract/wall';
import type { Scene } from '@keen-ridge/core/scene';
import { readScene } from '@keen-ridge/core/staging/check';
import type { Ease } from '@keen-ridge/core/timing';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { notFound } from '../faults/problems.ts';
import type { Database } from './connection/queryable.ts';
import { keptEases, shots, takes } from './schema.ts';

const COLUMNS = {
  id: takes.id,
  number: takes.number,
  name: takes.name,
  note: takes.note,
  madeAt: takes.madeAt,
};

/** The takes of a shot, oldest first, without their set-ups. */
export async function readTakes(db: Database, shotId: string): Promise<Take[]> {
  const rows = await db
    .select(COLUMNS)
    .from(takes)
    .where(eq(takes.shotId, shotId))
    .orderBy(asc(takes.number));
  return rows.map((row) => ({ ...row, madeAt: row.madeAt.toISOString() }));
}

/** The set-up that a take keeps, as the newest version of a scene. */
export async function readTakeScene(db: Database, id: string): Promise<Scene> {
  const [row] = await db.select({ scene: takes.scene }).from(takes).where(eq(takes.id, id));
  if (!row) throw notFound('This take');
  const scene = readScene(row.scene);
  if (!scene.ok) throw new Error(`Take ${id} cannot be read: ${JSON.stringify(scene.error)}`);
  return scene.value;
}

/** Keeps a set-up as the next take of its shot. The shot is locked meanwhile, so that no two takes get one number. */
export async function keepTake(
  db: Database,
  shotId: string,
  take: { readonly name: string; readonly note: string; readonly scene: Scene },
): Promise<string> {
  return db.transaction(async (tx) => {
    const [shot] = await tx
      .select({ id: shots.id })
      .from(shots)
      .where(and(eq(shots.id, shotId), isNull(shots.deletedAt)))
      .for('update');
    if (!shot) throw notFound('This shot');
    const [last] = await tx
      .select({ number: sql<number>`coalesce(max(${takes.number}), 0)::int` })
      .from(takes)
      .where(eq(takes.shotId, shotId));
    const [made] = await tx
      .insert(takes)
      .values({ shotId, number: (last?.number ?? 0) + 1, ...take })
      .returning({ id: takes.id });
    return made!.id;
  });
}

/** Another name and note for a take; its set-up never changes. */
export async function renameTake(
  db: Database,
  id: string,
  words: { name: string; note: string },
): Promise<void> {
  const changed = await db.update(takes).set(words).where(eq(takes.id, id)).returning({ id: takes.id });
  if (changed.length === 0) throw notFound('This take');
}

/** The artist's own eases, oldest first. */
export async function readEases(db: Database): Promise<KeptEase[]> {
  const rows = await db
    .select()
    .from(keptEases)
    .where(isNull(keptEases.deletedAt))
    .orderBy(asc(keptEases.madeAt));
  return rows.map(({ id, name, ease }) => ({ id, name, ease }));
}

export async function keepEase(db: Database, kept: { name: string; ease: Ease }): Promise<string> {
  const [made] = await db.insert(keptEases).values(kept).returning({ id: keptEases.id });
  return made!.id;
}

/** Taking an ease off the shelf only marks it; spans that use it keep theirs. */
export async function takeEaseOff(db: Database, id: string): Promise<void> {
  const changed = await db
    .update(keptEases)
    .set({ deletedAt: sql`now()` })
    .where(eq(keptEases.id, id))
    .returning({ id: keptEases.id });
  if (changed.length === 0) throw notFound('This ease');
}
