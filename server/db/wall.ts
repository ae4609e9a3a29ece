import type { BinItem, NewShot, Production, ShotCard } from '@keen-ridge/core/contract/wall';
import { withoutMove } from '@keen-ridge/core/edits/shot';
import { newScene, type Scene } from '@keen-ridge/core/scene';
import { and, asc, eq, isNotNull, isNull, sql } from 'drizzle-orm';
import { notFound } from '../faults/problems.ts';
import type { Database, Queryable } from './connection/queryable.ts';
import { productions, shots } from './schema.ts';
import { readSetUp } from './shots.ts';

/** As the artist has put the shots; those that were not put anywhere after them, by name. */
const AS_PLACED = [sql`${shots.place} asc nulls last`, asc(shots.name), asc(shots.madeAt)];

/** All productions and their shots that are not deleted. */
export async function readWall(db: Database): Promise<Production[]> {
  const [allProductions, allShots] = await Promise.all([
    db.select().from(productions).where(isNull(productions.deletedAt)).orderBy(asc(productions.madeAt)),
    db
      .select(CARD)
      .from(shots)
      .where(isNull(shots.deletedAt))
      .orderBy(...AS_PLACED),
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
  madeAt: sql<string>`to_char(${shots.madeAt} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"')`,
  planes: sql<number>`case jsonb_typeof(${shots.scene}->'planes')
    when 'object' then (select count(*)::int from jsonb_object_keys(${shots.scene}->'planes')) else 0 end`,
};

export async function makeProduction(db: Queryable, name: string): Promise<string> {
  const [made] = await db.insert(productions).values({ name }).returning({ id: productions.id });
  return made!.id;
}

export async function makeShot(db: Database, productionId: string, shot: NewShot): Promise<string> {
  await needProduction(db, productionId);
  const [made] = await db
    .insert(shots)
    .values({ productionId, name: shot.name, scene: newScene(shot) })
    .returning({ id: shots.id });
  return made!.id;
}

/** A shot that was made elsewhere, in a production that is there. */
export async function addShot(
  db: Queryable,
  shot: { readonly productionId: string; readonly name: string; readonly scene: Scene },
): Promise<string> {
  await needProduction(db, shot.productionId);
  const [made] = await db.insert(shots).values(shot).returning({ id: shots.id });
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

/** A copy of a shot beside it, as it stands now and without its history; its place is just after the other's. */
export async function duplicateShot(
  db: Database,
  id: string,
  { name, withMove }: { readonly name: string; readonly withMove: boolean },
): Promise<string> {
  return db.transaction(async (tx) => {
    const { scene, productionId } = await readSetUp(tx, id);
    const [made] = await tx
      .insert(shots)
      .values({ productionId, name, scene: withMove ? scene : withoutMove(scene) })
      .returning({ id: shots.id });
    const order = await orderOf(tx, productionId);
    const others = order.filter((one) => one !== made!.id);
    await setOrder(
      tx,
      productionId,
      others.flatMap((one) => (one === id ? [one, made!.id] : [one])),
    );
    return made!.id;
  });
}

async function orderOf(db: Queryable, productionId: string): Promise<string[]> {
  const rows = await db
    .select({ id: shots.id })
    .from(shots)
    .where(and(eq(shots.productionId, productionId), isNull(shots.deletedAt)))
    .orderBy(...AS_PLACED);
  return rows.map((row) => row.id);
}

/** Fails where there is no such production, or it lies in the bin. */
export async function needProduction(db: Queryable, id: string): Promise<void> {
  const [production] = await db
    .select({ id: productions.id })
    .from(productions)
    .where(and(eq(productions.id, id), isNull(productions.deletedAt)));
  if (!production) throw notFound('This production');
}

/** Puts the shots of a production in an order as the artist has; fails for one that is not there. */
export const orderShots = (db: Database, productionId: string, ids: readonly string[]): Promise<void> =>
  db.transaction(async (tx) => {
    await needProduction(tx, productionId);
    await setOrder(tx, productionId, ids);
  });

/** Puts the shots of a production in an order; those that are not named stand after them, by name. */
async function setOrder(db: Queryable, productionId: string, ids: readonly string[]): Promise<void> {
  await db.update(shots).set({ place: null }).where(eq(shots.productionId, productionId));
  for (const [place, id] of ids.entries())
    await db
      .update(shots)
      .set({ place })
      .where(and(eq(shots.id, id), eq(shots.productionId, productionId)));
}

/** Moves a shot into another production, at its end. */
export async function moveShot(db: Database, id: string, productionId: string): Promise<void> {
  await needProduction(db, productionId);
  const moved = await db
    .update(shots)
    .set({ productionId, place: null })
    .where(and(eq(shots.id, id), isNull(shots.deletedAt)))
    .returning({ id: shots.id });
  if (moved.length === 0) throw notFound('This shot');
}

const MOST_IN_BIN = 200;

/**
 * What was deleted of the productions that `sees` says yes to, the newest first. A shot whose production is in the bin too
 * comes back with it.
 */
export async function readBin(db: Database, sees: (productionId: string) => boolean): Promise<BinItem[]> {
  const [goneProductions, goneShots] = await Promise.all([
    db.select().from(productions).where(isNotNull(productions.deletedAt)),
    db
      .select({
        id: shots.id,
        name: shots.name,
        deletedAt: shots.deletedAt,
        productionId: shots.productionId,
        productionName: productions.name,
      })
      .from(shots)
      .innerJoin(productions, eq(productions.id, shots.productionId))
      .where(and(isNotNull(shots.deletedAt), isNull(productions.deletedAt))),
  ]);
  const items = [
    ...goneProductions.map((one) => {
      return { ...one, kind: 'production' as const, productionId: one.id, productionName: null };
    }),
    ...goneShots.map((one) => ({ ...one, kind: 'shot' as const })),
  ];
  return items
    .filter(({ productionId }) => sees(productionId))
    .map(({ kind, id, name, productionName, deletedAt }) => {
      return { kind, id, name, productionName, deletedAt: deletedAt?.toISOString() ?? '' };
    })
    .sort((p, q) => q.deletedAt.localeCompare(p.deletedAt))
    .slice(0, MOST_IN_BIN);
}

export interface ShotUsing {
  readonly id: string;
  readonly name: string;
  readonly productionId: string;
  readonly productionName: string;
}

/** The shots with planes that came from a file of that name, whatever folder it lay in. */
export async function shotsUsing(db: Database, file: string): Promise<ShotUsing[]> {
  const { rows } = await db.execute<{
    id: string;
    name: string;
    productionId: string;
    productionName: string;
  }>(sql`
    select distinct s.id, s.name, p.id as "productionId", p.name as "productionName"
    from ${shots} s join ${productions} p on p.id = s.production_id and p.deleted_at is null,
      jsonb_each(case jsonb_typeof(s.scene->'planes') when 'object' then s.scene->'planes' else '{}'::jsonb end) one
    where s.deleted_at is null
      and regexp_replace(one.value->'origin'->>'file', '^.*/', '') = ${file}
    order by "productionName", s.name`);
  return rows.map(({ id, name, productionId, productionName }) => ({
    id,
    name,
    productionId,
    productionName,
  }));
}
