import type { KeptLook } from '@keen-ridge/core/contract/wall';
import type { TakenLook } from '@keen-ridge/core/edits/look';
import { and, asc, eq, isNull, sql } from 'drizzle-orm';
import { notFound } from '../../faults/problems.ts';
import type { Database } from '../connection/queryable.ts';
import { keptLooks, productions } from '../schema.ts';

/** The looks that are kept for a production, oldest first. */
export async function readLooks(db: Database, productionId: string): Promise<KeptLook[]> {
  const rows = await db
    .select({ id: keptLooks.id, name: keptLooks.name, look: keptLooks.look })
    .from(keptLooks)
    .where(and(eq(keptLooks.productionId, productionId), isNull(keptLooks.deletedAt)))
    .orderBy(asc(keptLooks.madeAt));
  return rows;
}

export async function keepLook(
  db: Database,
  productionId: string,
  kept: { readonly name: string; readonly look: TakenLook },
): Promise<string> {
  const [there] = await db
    .select({ id: productions.id })
    .from(productions)
    .where(and(eq(productions.id, productionId), isNull(productions.deletedAt)));
  if (!there) throw notFound('This production');
  const [made] = await db
    .insert(keptLooks)
    .values({ productionId, ...kept })
    .returning({ id: keptLooks.id });
  return made!.id;
}

/** Taking a look off the shelf only marks it; shots that were given it keep what they got. */
export async function takeLookOff(db: Database, id: string): Promise<void> {
  const changed = await db
    .update(keptLooks)
    .set({ deletedAt: sql`now()` })
    .where(eq(keptLooks.id, id))
    .returning({ id: keptLooks.id });
  if (changed.length === 0) throw notFound('This look');
}
