import type { Shot } from '@keen-ridge/core/contract';
import {
  type Author,
  landPatch,
  type Pending,
  type Replica,
  type Revision,
  restored,
  sceneBefore,
} from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import { ServerRefusal } from '../api/client.ts';
import { readRevisions, readShot } from '../api/shot.ts';
import type { Lost } from './shot-link.ts';
import { readLeftUnsent, type Unsent } from './unsent.ts';

export interface OpenedShot {
  readonly shot: Shot;
  /** As it was read, with what earlier windows left unsent on top. */
  readonly replica: Replica;
  /** What of that no longer fits. */
  readonly lost: readonly Lost[];
  /** Lists of unsent edits of an older version, which cannot be read. */
  readonly unreadable: number;
  /** Where all of it still lies in the browser's storage. */
  readonly names: readonly string[];
}

/** Reads a shot and takes up what windows that are gone have left unsent of it, of the authors in `own`. */
export async function openShot(id: string, author: Author, own: ReadonlySet<string>): Promise<OpenedShot> {
  const shot = await readShot(id, author.id);
  const { left, unreadable, names } = await readLeftUnsent(id, own);
  let { replica } = restored(shot, author, []);
  const lost: Lost[] = [];
  for (const unsent of left) {
    const since = unsent.ops.length > 0 ? await revisionsSince(id, unsent.revision) : [];
    const taken = new Set(since.map(({ opId }) => opId));
    const waiting = unsent.ops.filter(({ opId }) => !taken.has(opId));
    const again = restored({ ...replicaShot(replica) }, author, [...replica.pending, ...waiting]);
    replica = again.replica;
    if (again.dropped.length > 0)
      lost.push({ ops: again.dropped, scene: sceneWith(shot.scene, since, unsent), by: null, why: null });
  }
  return { shot, replica, lost, unreadable, names };
}

const replicaShot = ({ revision, base, stacks }: Replica) => ({ revision, scene: base, ...stacks });

async function revisionsSince(id: string, revision: number): Promise<Revision[]> {
  try {
    return await readRevisions(id, revision);
  } catch (error) {
    // Too long ago: what was taken of it and what not is no longer known, and what was does not fit any more.
    if (error instanceof ServerRefusal && error.problem.code === 'forgotten') return [];
    throw error;
  }
}

/** The scene as the window saw it that left these ops: on the revision that it knew. */
function sceneWith(now: Scene, since: readonly Revision[], { ops }: Unsent): Scene {
  return ops.reduce((scene: Scene, { patch }: Pick<Pending, 'patch'>) => {
    const landed = landPatch(scene, patch);
    return landed.ok ? landed.value.scene : scene;
  }, sceneBefore(now, since) ?? now);
}
