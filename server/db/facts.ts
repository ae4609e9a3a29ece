import { eq } from 'drizzle-orm';
import type { Queryable } from './connection/queryable.ts';
import { facts } from './schema.ts';

/** Whether a small fact about this database is known. */
export async function isKnown(db: Queryable, key: string): Promise<boolean> {
  const rows = await db.select({ key: facts.key }).from(facts).where(eq(facts.key, key));
  return rows.length > 0;
}

/** Notes a fact; false where somebody else has done so already. */
export async function noteOnce(db: Queryable, key: string): Promise<boolean> {
  const noted = await db.insert(facts).values({ key, value: 'yes' }).onConflictDoNothing().returning();
  return noted.length > 0;
}
