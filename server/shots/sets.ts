import { randomUUID } from 'node:crypto';
import type { ProductionSet, SetChange, SetChanged } from '@keen-ridge/core/contract/sets';
import { followersOf, followSet } from '@keen-ridge/core/edits/sets';
import type { SetId } from '@keen-ridge/core/scene';
import type { Database, Queryable } from '../db/connection/queryable.ts';
import { lockSet, needArt, readSets, usersOfSets, writeSet } from '../db/kept/sets.ts';
import { ProblemError } from '../faults/problems.ts';
import { changeShot, type ShotChange } from './history.ts';

/** The sets of a production, each with the shots that use it. */
export async function listSets(db: Database, productionId: string): Promise<ProductionSet[]> {
  const [found, users] = [await readSets(db, productionId), await usersOfSets(db, productionId)];
  return found.map(({ productionId: _, ...set }) => ({ ...set, users: users.get(set.id) ?? [] }));
}

/**
 * Changes a set, and with it every shot of the production whose planes follow it, at once or not at all. A shot in which
 * the change would leave no sound stage is left as it was, and told; one that is as the set wants it already is not.
 */
export const changeSet = (db: Database, id: SetId, change: SetChange): Promise<SetChanged> =>
  db.transaction(async (tx) => {
    const set = await lockSet(tx, id);
    if (set.revision !== change.revision)
      throw new ProblemError('conflict', `“${set.name}” was changed meanwhile: look at it again.`);
    await needArt(tx, change.planes);
    const revision = set.revision + 1;
    await writeSet(tx, id, change.planes, revision);
    const users = (await usersOfSets(tx, set.productionId)).get(id) ?? [];
    // By their ids, so that two sets that are changed at once never wait for each other's shots.
    const following = users
      .filter(({ follow }) => follow.length > 0)
      .toSorted((one, other) => (one.shotId < other.shotId ? -1 : 1));
    const done: SetChanged = { revision, followed: [], left: [] };
    for (const { shotId, name } of following) {
      const made = await follow(tx, shotId, { ...change, id, name: set.name });
      if (made.kind === 'changed') done.followed.push({ shotId, name });
      if (made.kind === 'left') done.left.push({ shotId, name, why: made.why });
    }
    return done;
  });

async function follow(
  tx: Queryable,
  shotId: string,
  { id, name, planes, author }: SetChange & { readonly id: SetId; readonly name: string },
): Promise<ShotChange> {
  const edit = { opId: randomUUID(), author, action: 'follow-set', subject: name } as const;
  return changeShot(tx, shotId, edit, (scene) =>
    followersOf(scene, id).length === 0 ? scene : followSet(scene, { id, planes }),
  );
}
