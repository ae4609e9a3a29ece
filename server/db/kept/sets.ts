import type { NewSet, SetUser } from '@keen-ridge/core/contract/sets';
import type { Plane, PlaneId, SetId } from '@keen-ridge/core/scene';
import { keptArts } from '@keen-ridge/core/staging/content';
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { notFound } from '../../faults/problems.ts';
import type { Database, Queryable } from '../connection/queryable.ts';
import { art, sets, shots } from '../schema.ts';
import { needProduction } from '../wall.ts';

export interface StoredSet {
  readonly id: SetId;
  readonly productionId: string;
  readonly name: string;
  readonly planes: Plane[];
  readonly revision: number;
}

const COLUMNS = {
  id: sets.id,
  productionId: sets.productionId,
  name: sets.name,
  planes: sets.planes,
  revision: sets.revision,
};

const isThere = (id: SetId) => and(eq(sets.id, id), isNull(sets.deletedAt));

/** The sets of a production, oldest first. */
export const readSets = (db: Queryable, productionId: string): Promise<StoredSet[]> =>
  db
    .select(COLUMNS)
    .from(sets)
    .where(and(eq(sets.productionId, productionId), isNull(sets.deletedAt)))
    .orderBy(asc(sets.madeAt));

export async function readSet(db: Queryable, id: SetId): Promise<StoredSet> {
  const [set] = await db.select(COLUMNS).from(sets).where(isThere(id));
  if (!set) throw notFound('This set');
  return set;
}

/** The set, locked until the transaction ends: two who change it do so one after the other. */
export async function lockSet(tx: Queryable, id: SetId): Promise<StoredSet> {
  const [set] = await tx.select(COLUMNS).from(sets).where(isThere(id)).for('update');
  if (!set) throw notFound('This set');
  return set;
}

/** Makes a set, or does nothing where it was made before. Every image that it names must be stored. */
export async function makeSet(db: Queryable, productionId: string, { id, name, planes }: NewSet) {
  await needProduction(db, productionId);
  await needArt(db, planes);
  await db.insert(sets).values({ id, productionId, name, planes }).onConflictDoNothing();
}

export async function needArt(db: Queryable, planes: readonly Plane[]): Promise<void> {
  const wanted = [...new Set(planes.flatMap(({ content }) => keptArts(content).map(({ id }) => id)))];
  const stored = await db.select({ id: art.id }).from(art).where(inArray(art.id, wanted));
  if (stored.length < wanted.length) throw notFound('The art of this set');
}

export async function writeSet(tx: Queryable, id: SetId, planes: Plane[], revision: number): Promise<void> {
  await tx.update(sets).set({ planes, revision }).where(eq(sets.id, id));
}

export async function renameSet(db: Database, id: SetId, name: string): Promise<void> {
  const changed = await db.update(sets).set({ name }).where(isThere(id)).returning({ id: sets.id });
  if (changed.length === 0) throw notFound('This set');
}

/** A set that is put away only is not offered any more: its planes belong to the shots that use it. */
export async function putSetAway(db: Database, id: SetId): Promise<void> {
  const changed = await db
    .update(sets)
    .set({ deletedAt: sql`now()` })
    .where(isThere(id))
    .returning({ id: sets.id });
  if (changed.length === 0) throw notFound('This set');
}

/** The shots of a production that use its sets, by set; told by the database, since scenes may have megabytes. */
export async function usersOfSets(db: Queryable, productionId: string): Promise<Map<string, SetUser[]>> {
  const { rows } = await db.execute<{
    set: string;
    shotId: string;
    name: string;
    follow: PlaneId[];
    own: number;
  }>(
    sql`
    select p.value->'ofSet'->>'set' as "set", s.id as "shotId", s.name,
      coalesce(json_agg(p.value->'ofSet'->'plane')
        filter (where (p.value->'ofSet'->>'follows')::boolean), '[]') as follow,
      count(*) filter (where not (p.value->'ofSet'->>'follows')::boolean)::int as own
    from ${shots} s, jsonb_each(case jsonb_typeof(s.scene->'planes')
      when 'object' then s.scene->'planes' else '{}'::jsonb end) p
    where s.production_id = ${productionId} and s.deleted_at is null and p.value ? 'ofSet'
    group by 1, s.id, s.name, s.place order by s.place asc nulls last, s.name`,
  );
  const users = new Map<string, SetUser[]>();
  for (const { set, ...user } of rows) users.set(set, [...(users.get(set) ?? []), user]);
  return users;
}
