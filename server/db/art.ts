import type { ArtId, ArtRef } from '@keen-ridge/core/scene';
import { eq, inArray, sql } from 'drizzle-orm';
import type { Queryable } from './connection/queryable.ts';
import { art } from './schema.ts';

/** Stores an image once, whoever brings it; what is there already counts as new again. `likeness` as `likenessOf` gives it. */
export async function keepArt(
  db: Queryable,
  facts: ArtRef,
  likeness: readonly number[],
  png: Uint8Array,
): Promise<void> {
  await db
    .insert(art)
    .values({ id: facts.id, facts, likeness: [...likeness], png })
    .onConflictDoUpdate({ target: art.id, set: { madeAt: sql`now()` } });
}

export async function readArt(db: Queryable, id: string): Promise<{ facts: ArtRef; png: Uint8Array } | null> {
  const [row] = await db.select({ facts: art.facts, png: art.png }).from(art).where(eq(art.id, id));
  return row ?? null;
}

/** The likenesses of stored images, as far as they have one. */
export async function readLikenesses(
  db: Queryable,
  ids: readonly ArtId[],
): Promise<Record<string, number[]>> {
  if (ids.length === 0) return {};
  const rows = await db
    .select({ id: art.id, likeness: art.likeness })
    .from(art)
    .where(inArray(art.id, [...ids]));
  return Object.fromEntries(rows.flatMap(({ id, likeness }) => (likeness ? [[id, likeness]] : [])));
}

/** Those of some images that are stored. */
export async function storedOf(db: Queryable, ids: readonly ArtId[]): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await db
    .select({ id: art.id })
    .from(art)
    .where(inArray(art.id, [...ids]));
  return new Set(rows.map(({ id }) => id));
}
