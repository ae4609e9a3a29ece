import { createHash } from 'node:crypto';
import { type ArtId, type ArtRef, artIdSchema } from '@keen-ridge/core/document';
import { eq } from 'drizzle-orm';
import type { Database, Queryable } from '../db/database.ts';
import { art } from '../db/schema.ts';

export const artIdOf = (png: Uint8Array): ArtId =>
  artIdSchema.parse(createHash('sha256').update(png).digest('hex'));

/** Stores an image once, whoever brings it. */
export async function keepArt(db: Queryable, facts: ArtRef, png: Uint8Array): Promise<void> {
  await db.insert(art).values({ id: facts.id, facts, png }).onConflictDoNothing();
}

export async function readArt(db: Database, id: string): Promise<{ facts: ArtRef; png: Uint8Array } | null> {
  const [row] = await db.select({ facts: art.facts, png: art.png }).from(art).where(eq(art.id, id));
  return row ?? null;
}
