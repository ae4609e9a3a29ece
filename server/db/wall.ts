import type { NewShot, Production, ShotCard } from '@keen-ridge/core/contract/wall';
import { newScene, type Scene } from '@keen-ridge/core/scene';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { notFound } from '../faults/problems.ts';
import type { Database, Queryable } from './connection/queryable.ts';
import { productions, shots } from './schema.ts';

/** All productions and their shots that are not deleted. */
export async function readWall(db: Database): Promise<Production[]> {
  const [allProductions, allShots] = await Promise.all([
    db.select().from(productions).where(isNull(productions.deletedAt)).orderBy(asc(productions.madeAt)),
    db.select(CARD).from(shots).where(isNull(shots.deletedAt)).orderBy(asc(shots.name), asc(shots.madeAt)),
  ]);
  return allProductions.map(({ id, name }) => ({
    id,
    name,
    shots: allShots
      .filter((shot) => shot.productionId === id)
      .map(({ productionId: _, ...card }): ShotCard => card),
  }));
}

/** What a wall shows of a shot, picked from its scene by the database: a scene may have megabytes. */
const CARD = {
  id: shots.id,
  name: shots.name,
  productionId: shots.productionId,
  revision: shots.revision,
  frame: sql<Scene['frame']>`${shots.scene}->'frame'`,
  rate: sql<Scene['rate']>`${shots.scene}->'rate'`,
  lengthFrames: sql<number>`(${shots.scene}->>'lengthFrames')::int`,
  planes: sql<number>`case jsonb_typeof(${shots.scene}->'planes')
    when 'object' then (select count(*)::int from jsonb_object_keys(${shots.scene}->'planes')) else 0 end`,
};

export async function makeProduction(db: Database, name: string): Promise<string> {
  const [made] = await db.insert(productions).values({ name }).returning({ id: productions.id });
  return made!.id;
}

export async function makeShot(db: Database, productionId: string, shot: NewShot): Promise<string> {
  const [production] = await db
    .select({ id: productions.id })
    .from(productions)
    .where(and(eq(productions.id, productionId), isNull(productions.deletedAt)));
  if (!production) throw notFound('This production');
  const [made] = await db
    .insert(shots)
    .values({ productionId, name: shot.name, scene: newScene(shot) })
    .returning({ id: shots.id });
  return made!.id;
}

export async function insertShot(db: Queryable, shot: typeof shots.$inferInsert): Promise<void> {
  await db.insert(shots).values(shot);
}

/** The production of that name, made where there is none; null where it was deleted. */
export async function productionCalled(db: Queryable, name: string): Promise<string | null> {
  const [there] = await db.select().from(productions).where(eq(productions.name, name));
  if (there) return there.deletedAt === null ? there.id : null;
  const [made] = await db.insert(productions).values({ name }).returning();
  return made!.id;
}

type Kind = 'production' | 'shot';
const tableOf = (kind: Kind) => (kind === 'production' ? productions : shots);

export async function rename(db: Database, kind: Kind, id: string, name: string): Promise<void> {
  const changed = await db
    .update(tableOf(kind))
    .set({ name })
    .where(eq(tableOf(kind).id, id))
    .returning({ id: tableOf(kind).id });
  if (changed.length === 0) throw notFound(`This ${kind}`);
}

/** Deleting only marks, so that it can be taken back. */
export async function setDeleted(db: Database, kind: Kind, id: string, deleted: boolean): Promise<void> {
  const changed = await db
    .update(tableOf(kind))
    .set({ deletedAt: deleted ? sql`now()` : null })
    .where(eq(tableOf(kind).id, id))
    .returning({ id: tableOf(kind).id });
  if (changed.length === 0) throw notFound(`This ${kind}`);
}
