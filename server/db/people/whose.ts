import type { Role } from '@keen-ridge/core/contract/people';
import { and, eq, inArray, type SQL, sql } from 'drizzle-orm';
import type { PgTable } from 'drizzle-orm/pg-core';
import type { Database, Queryable } from '../connection/queryable.ts';
import { handoffs, keptLooks, members, sets, shelfPieces, shots, takes } from '../schema.ts';

/** What belongs to a production, deleted or not. */
export type Owned = 'production' | 'shot' | 'handoff' | 'take' | 'set' | 'shelf piece' | 'look';

const ofShot = (shotId: SQL): SQL => sql`(select production_id from ${shots} where id = ${shotId})`;
const own = (table: PgTable, id: string): SQL =>
  sql`(select production_id from ${table} where id = ${id}::uuid)`;
const ofItsShot = (table: PgTable, id: string): SQL =>
  ofShot(sql`(select shot_id from ${table} where id = ${id}::uuid)`);

/** The production that something belongs to, as a part of a statement; null there where there is no such thing. */
export function productionOf(what: Owned, id: string): SQL {
  switch (what) {
    case 'production':
      return sql`${id}::uuid`;
    case 'shot':
      return ofShot(sql`${id}::uuid`);
    case 'handoff':
      return ofItsShot(handoffs, id);
    case 'take':
      return ofItsShot(takes, id);
    case 'set':
      return own(sets, id);
    case 'shelf piece':
      return own(shelfPieces, id);
    case 'look':
      return own(keptLooks, id);
  }
}

/** The productions of several shots, each once; shots that there are not are left out. */
export async function productionsOfShots(db: Database, shotIds: readonly string[]): Promise<string[]> {
  const found = await db
    .selectDistinct({ productionId: shots.productionId })
    .from(shots)
    .where(inArray(shots.id, [...shotIds]));
  return found.map(({ productionId }) => productionId);
}

export async function roleIn(db: Queryable, personId: string, productionId: string): Promise<Role | null> {
  const [found] = await db
    .select({ role: members.role })
    .from(members)
    .where(and(eq(members.personId, personId), eq(members.productionId, productionId)));
  return found?.role ?? null;
}

/** Every production that a person has a role in. */
export async function rolesOf(db: Queryable, personId: string): Promise<Map<string, Role>> {
  const found = await db
    .select({ productionId: members.productionId, role: members.role })
    .from(members)
    .where(eq(members.personId, personId));
  return new Map(found.map(({ productionId, role }) => [productionId, role]));
}
