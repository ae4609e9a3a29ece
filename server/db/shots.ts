import type { Shot } from '@keen-ridge/core/contract';
import type { Scene } from '@keen-ridge/core/scene';
import { readScene } from '@keen-ridge/core/staging/check';
import { and, eq, isNull } from 'drizzle-orm';
import { notFound } from '../faults/problems.ts';
import type { Database, Queryable } from './connection/queryable.ts';
import { readStack } from './history.ts';
import { productions, shots } from './schema.ts';

export type SetUp = Omit<Shot, 'undo' | 'redo' | 'role'>;

/** A shot as it stands, without its history: for whatever only draws or hands it on. */
export async function readSetUp(db: Queryable, id: string): Promise<SetUp> {
  const [row] = await db
    .select({ shot: shots, productionName: productions.name })
    .from(shots)
    .innerJoin(productions, eq(productions.id, shots.productionId))
    .where(and(eq(shots.id, id), isNull(shots.deletedAt), isNull(productions.deletedAt)));
  if (!row) throw notFound('This shot');
  const { name, productionId, revision } = row.shot;
  return {
    id,
    name,
    productionId,
    productionName: row.productionName,
    revision,
    scene: sceneOf(row.shot.scene),
  };
}

/** A shot with what `author` may undo and redo, all as of one revision. */
export function readShot(db: Database, id: string, author: string): Promise<Omit<Shot, 'role'>> {
  return db.transaction(
    async (tx) => {
      const shot = await readSetUp(tx, id);
      const undo = await readStack(tx, id, 'done', author);
      return { ...shot, undo, redo: await readStack(tx, id, 'undone', author) };
    },
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  );
}

/** Stored scenes are migrated as they are read. One that cannot be read is our own fault, not the client's. */
export function sceneOf(stored: unknown): Scene {
  const scene = readScene(stored);
  if (!scene.ok) throw new Error(`A stored scene cannot be read: ${JSON.stringify(scene.error)}`);
  return scene.value;
}

export async function readRevision(db: Database, id: string): Promise<number> {
  const [row] = await db
    .select({ revision: shots.revision })
    .from(shots)
    .where(and(eq(shots.id, id), isNull(shots.deletedAt)));
  if (!row) throw notFound('This shot');
  return row.revision;
}
