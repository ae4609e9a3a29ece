import type { NewShelfPiece, ShelfContent, ShelfPiece } from '@keen-ridge/core/contract';
import type { ArtRef } from '@keen-ridge/core/scene';
import { keptArts } from '@keen-ridge/core/staging/content';
import { and, asc, eq, inArray, isNull, sql } from 'drizzle-orm';
import { notFound } from '../../faults/problems.ts';
import type { Database, Queryable } from '../connection/queryable.ts';
import { art, shelfPieces } from '../schema.ts';
import { needProduction } from '../wall.ts';

/** The pieces of a production's art shelf, oldest first. */
export async function readShelf(db: Database, productionId: string): Promise<ShelfPiece[]> {
  const rows = await db
    .select()
    .from(shelfPieces)
    .where(and(eq(shelfPieces.productionId, productionId), isNull(shelfPieces.deletedAt)))
    .orderBy(asc(shelfPieces.madeAt));
  return rows.map(({ id, name, content, from }) => ({ id, name, content, from }));
}

/** Keeps a piece for the production's shots. Every image that it names must be stored. */
export async function addToShelf(db: Database, productionId: string, piece: NewShelfPiece): Promise<string> {
  await needProduction(db, productionId);
  const wanted = [...new Set(artsOfPiece(piece.content).map(({ id }) => id))];
  const stored = await db.select({ id: art.id }).from(art).where(inArray(art.id, wanted));
  if (stored.length < wanted.length) throw notFound('The art of this piece');
  const [made] = await db
    .insert(shelfPieces)
    .values({ productionId, ...piece })
    .returning({ id: shelfPieces.id });
  return made!.id;
}

/** Every image that a piece names. */
export const artsOfPiece = (content: ShelfContent): readonly ArtRef[] =>
  content.kind === 'set' ? content.planes.flatMap((plane) => keptArts(plane.content)) : keptArts(content);

export async function insertPiece(db: Queryable, piece: typeof shelfPieces.$inferInsert): Promise<void> {
  await db.insert(shelfPieces).values(piece);
}

/** Taking a piece off only marks it: shots that use it keep their art, and it can be put back. */
export async function setOffShelf(db: Database, id: string, off: boolean): Promise<void> {
  const changed = await db
    .update(shelfPieces)
    .set({ deletedAt: off ? sql`now()` : null })
    .where(eq(shelfPieces.id, id))
    .returning({ id: shelfPieces.id });
  if (changed.length === 0) throw notFound('This piece');
}
