import { randomUUID } from 'node:crypto';
import type { Archive, ShotHistory } from '@keen-ridge/core/contract/archive';
import { withSetIds } from '@keen-ridge/core/edits/sets';
import { type Scene, setIdSchema } from '@keen-ridge/core/scene';
import { readScene } from '@keen-ridge/core/staging/check';
import { and, asc, eq, isNull } from 'drizzle-orm';
import { notFound } from '../faults/problems.ts';
import type { Database, Queryable } from './connection/queryable.ts';
import { readLooks } from './kept/looks.ts';
import { readSets } from './kept/sets.ts';
import { readShelf } from './kept/shelf.ts';
import { keptLooks, productions, sets, shelfPieces, shots, takes } from './schema.ts';
import { insertHistory } from './shot-history.ts';
import { readSurveyLimits } from './survey-limits.ts';
import { readWall } from './wall.ts';

type Kept = Pick<Archive, 'name' | 'surveyLimits' | 'looks' | 'shelf' | 'sets'>;

/** What a production holds beside its shots, and the ids of those in their order. */
export async function readProduction(
  db: Database,
  id: string,
): Promise<Kept & { readonly shotIds: string[] }> {
  const production = (await readWall(db)).find((one) => one.id === id);
  if (!production) throw notFound('This production');
  const [limits, looks, shelf, kept] = [
    await readSurveyLimits(db, id),
    await readLooks(db, id),
    await readShelf(db, id),
    await readSets(db, id),
  ];
  return {
    name: production.name,
    surveyLimits: limits,
    looks: looks.map(({ name, look }) => ({ name, look })),
    shelf: shelf.map(({ name, content, from }) => ({ name, content, from })),
    sets: kept.map(({ id: set, name, planes }) => ({ id: set, name, planes })),
    shotIds: production.shots.map((shot) => shot.id),
  };
}

export interface TakeScene {
  readonly name: string;
  readonly note: string;
  readonly scene: Scene;
}

/** The takes of a shot with their set-ups, oldest first; one that cannot be read any more is left out. */
export async function readTakeScenes(db: Database, shotId: string): Promise<TakeScene[]> {
  const rows = await db.select().from(takes).where(eq(takes.shotId, shotId)).orderBy(asc(takes.number));
  return rows.flatMap(({ name, note, scene }) => {
    const read = readScene(scene);
    return read.ok ? [{ name, note, scene: read.value }] : [];
  });
}

export interface NewProduction extends Kept {
  readonly shots: readonly {
    readonly name: string;
    readonly scene: Scene;
    readonly takes: readonly TakeScene[];
    readonly history: ShotHistory | null;
  }[];
}

/** A whole production at once, or nothing. Its name is made one that no other has. */
export const addProduction = (
  db: Database,
  made: NewProduction,
  alongside: (tx: Queryable, productionId: string) => Promise<void>,
): Promise<{ id: string; name: string }> =>
  db.transaction(async (tx) => {
    const others = await tx
      .select({ name: productions.name })
      .from(productions)
      .where(and(isNull(productions.deletedAt)));
    const taken = new Set(others.map((other) => other.name));
    let { name } = made;
    for (let number = 2; taken.has(name); number++) name = `${made.name} ${number}`;
    const [production] = await tx
      .insert(productions)
      .values({ name, surveyLimits: made.surveyLimits })
      .returning({ id: productions.id });
    const productionId = production!.id;
    // Under ids of their own: what the archive was made of may still be here.
    const idOf = new Map(made.sets.map(({ id }) => [id, setIdSchema.parse(randomUUID())]));
    const here = (scene: Scene) => withSetIds(scene, (set) => idOf.get(set) ?? null);
    for (const set of made.sets)
      await tx.insert(sets).values({ ...set, id: idOf.get(set.id)!, productionId });
    for (const [place, shot] of made.shots.entries()) {
      const [row] = await tx
        .insert(shots)
        .values({ productionId, name: shot.name, scene: here(shot.scene), place })
        .returning({ id: shots.id });
      if (shot.history) await insertHistory(tx, row!.id, shot.history);
      for (const [i, take] of shot.takes.entries())
        await tx.insert(takes).values({ shotId: row!.id, number: i + 1, ...take, scene: here(take.scene) });
    }
    for (const look of made.looks) await tx.insert(keptLooks).values({ productionId, ...look });
    for (const piece of made.shelf) await tx.insert(shelfPieces).values({ productionId, ...piece });
    await alongside(tx, productionId);
    return { id: productionId, name };
  });
