import type { History, OpRequest, Problem } from '@keen-ridge/core/contract';
import {
  differenceBetween,
  type EditAction,
  inverseOf,
  type Landed,
  landPatch,
  NOBODY,
  type Op,
  overlap,
  type Patch,
  patchOfStep,
  type Revision,
  sceneBefore,
  touchedBy,
} from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import type { Database, Queryable } from '../db/connection/queryable.ts';
import { isTaken } from '../db/connection/taken.ts';
import {
  findEdit,
  findOp,
  keepEdit,
  keepStep,
  lockShot,
  newestSteps,
  readForEdit,
  readSteps,
  turnEdit,
} from '../db/history.ts';
import { readRevision, readSetUp, sceneOf } from '../db/shots.ts';
import { notFound, ProblemError } from '../faults/problems.ts';
import { inTurn } from './live/turns.ts';

/** How far back it is looked for who touched what an edit wants to touch. */
const LOOK_BACK = 500;

/** How often an edit is put on top of a shot anew that others change at the same moment, by way of another server. */
const MOST_TRIES = 50;

/**
 * Puts one op on top of the shot as it is, where nobody has touched since what it touches, and answers the steps after
 * the revision that the window knows, its own among them. The same opId is done only once.
 */
export async function applyOp(db: Database, shotId: string, request: OpRequest): Promise<Revision[]> {
  const { op } = request;
  const made = await inTurn(shotId, () =>
    op.kind === 'edit'
      ? takeEdit(db, shotId, request, op)
      : db.transaction((tx) => takeTurn(tx, shotId, request, op)),
  );
  // What the window did not know is all that was done: that is at hand.
  return made && made.revision === request.revision + 1
    ? [made]
    : revisionsAfter(db, shotId, request.revision, made?.revision);
}

const needSameShot = (takenFor: string, shotId: string, opId: string): void => {
  if (takenFor !== shotId) throw new ProblemError('bad-request', `The edit ${opId} belongs to another shot.`);
};

/** The step that an edit makes; null where it was made before. Two statements, and no lock: it is put there anew if need be. */
async function takeEdit(
  db: Database,
  shotId: string,
  request: OpRequest,
  op: Extract<Op, { kind: 'edit' }>,
): Promise<Revision | null> {
  for (let tries = 0; tries < MOST_TRIES; tries++) {
    const shot = await readForEdit(db, shotId, request.opId);
    if (!shot) throw notFound('This shot');
    if (shot.takenFor !== null) {
      needSameShot(shot.takenFor, shotId, request.opId);
      return null;
    }
    const { scene, patch } = await landedOn(db, shotId, sceneOf(shot.scene), op.patch, {
      knows: request.revision >= shot.revision,
      author: request.author.id,
    });
    const step = { shotId, request, scene, patch, revision: shot.revision + 1 };
    try {
      const made = await keepEdit(db, step, op);
      if (made) return made;
    } catch (error) {
      // Another server has taken the very same op a moment before.
      if (!isTaken(error)) throw error;
    }
  }
  throw new ProblemError('busy', 'Too many people change this shot at once. Try again.');
}

async function takeTurn(
  tx: Queryable,
  shotId: string,
  request: OpRequest,
  op: Exclude<Op, { kind: 'edit' }>,
): Promise<null> {
  const shot = await lockShot(tx, shotId);
  if (!shot) throw notFound('This shot');
  const before = await findOp(tx, request.opId);
  if (before) {
    needSameShot(before.shotId, shotId, request.opId);
    return null;
  }
  const wanted = await wantedBy(tx, shotId, request, op);
  const { scene, patch } = await landedOn(tx, shotId, sceneOf(shot.scene), wanted.patch, {
    knows: false,
    author: request.author.id,
  });
  const revision = shot.revision + 1;
  if (op.kind === 'undo') await turnEdit(tx, op.edit, 'undone', request, { revision });
  else await turnEdit(tx, op.edit, 'done', request, { patch, revision });
  await keepStep(tx, { shotId, request, editId: wanted.editId, scene, patch, revision });
  return null;
}

/** An edit that the server makes by itself, in somebody's name. */
export interface ServerEdit {
  readonly opId: string;
  readonly author: OpRequest['author'];
  readonly action: EditAction;
  readonly subject: string;
}

/** What became of a shot that the server meant to change: nothing was to be changed in one that is the `same`. */
export type ShotChange =
  | { readonly kind: 'changed' | 'same' }
  | { readonly kind: 'left'; readonly why: string };

/**
 * Changes a shot as it is now by a function of its scene, as an edit like any other: seen by every window, undone by its
 * author. Nothing is kept where it changes nothing.
 */
export async function changeShot(
  tx: Queryable,
  shotId: string,
  { opId, author, action, subject }: ServerEdit,
  change: (scene: Scene) => Scene,
): Promise<ShotChange> {
  const shot = await lockShot(tx, shotId);
  if (!shot) throw notFound('This shot');
  const before = sceneOf(shot.scene);
  const wanted = differenceBetween(before, change(before));
  if (wanted.length === 0) return { kind: 'same' };
  const landed = landPatch(before, wanted);
  if (!landed.ok) {
    const why = landed.error.code === 'conflict' ? 'it cannot be told apart' : landed.error.detail;
    return { kind: 'left', why };
  }
  const { scene, patch } = landed.value;
  const revision = shot.revision + 1;
  const op = { kind: 'edit', action, subject, patch } as const;
  const request: OpRequest = { opId, revision: shot.revision, author, op };
  const kept = await keepEdit(tx, { shotId, request, scene, patch, revision }, op);
  if (!kept) throw new Error('A shot that is locked was changed');
  return { kind: 'changed' };
}

/** The edit that an op is about, and what it wants to do to the scene. */
async function wantedBy(
  tx: Queryable,
  shotId: string,
  { author }: OpRequest,
  op: Exclude<Op, { kind: 'edit' }>,
): Promise<{ editId: string; patch: Patch }> {
  const edit = await findEdit(tx, shotId, op.edit);
  const mine = edit && (edit.authorId === author.id || edit.authorId === NOBODY.id);
  if (!mine || edit.inverse !== null || edit.state !== (op.kind === 'undo' ? 'done' : 'undone'))
    throw new ProblemError('nothing-to-undo', `There is no edit of yours to ${op.kind}.`);
  return { editId: edit.id, patch: op.kind === 'undo' ? inverseOf(edit.patch) : edit.patch };
}

async function landedOn(
  tx: Queryable,
  shotId: string,
  scene: Scene,
  patch: Patch,
  { knows, author }: { readonly knows: boolean; readonly author: string },
): Promise<Landed> {
  const landed = landPatch(scene, patch);
  if (landed.ok) return landed.value;
  const fault = landed.error;
  // On the very scene that it was made on it can only be wrong by itself.
  if (knows) {
    const what = fault.code === 'conflict' ? `${fault.paths[0]} is not as it says` : fault.detail;
    throw new ProblemError('edit-refused', `The edit would leave a shot that is not valid: ${what}`);
  }
  const paths = fault.code === 'conflict' ? [...fault.paths] : touchedBy(patch);
  const by = await whoTouched(tx, shotId, paths, author);
  const who = by?.author.name || 'Somebody';
  throw new ProblemError('conflict', `${who} has changed the same meanwhile.`, { conflict: { paths, by } });
}

/** The last step of somebody else, or of another window, at one of some fields. */
async function whoTouched(
  tx: Queryable,
  shotId: string,
  paths: readonly string[],
  author: string,
): Promise<NonNullable<Problem['conflict']>['by']> {
  const touching = (await newestSteps(tx, shotId, LOOK_BACK)).filter((step) =>
    touchedBy(patchOfStep(step)).some((touched) => paths.some((path) => overlap(touched, path))),
  );
  const step = touching.find(({ entry }) => entry.author.id !== author) ?? touching[0];
  if (!step) return null;
  const { author: by, action, subject, at } = step.entry;
  return { author: by, action, subject, at };
}

/** The newest steps of a shot, at most so many, and the scene that they led to. */
export const readHistory = (db: Database, shotId: string, atMost: number): Promise<History> =>
  db.transaction(
    async (tx) => {
      const { scene, revision } = await readSetUp(tx, shotId);
      const steps = await newestSteps(tx, shotId, atMost);
      const gap = steps.findIndex((step, i) => step.revision !== revision - i);
      return { scene, revisions: (gap < 0 ? steps : steps.slice(0, gap)).toReversed() };
    },
    { isolationLevel: 'repeatable read', accessMode: 'read only' },
  );

/** The scene as it was right after a revision; fails where the steps since are no longer known. */
export async function sceneAt(db: Database, shotId: string, revision: number): Promise<Scene> {
  const now = await readRevision(db, shotId);
  const { scene, revisions } = await readHistory(db, shotId, Math.max(0, now - revision));
  const after = revisions.filter((step) => step.revision > revision);
  const found = revisions.length >= now - revision && revision <= now ? sceneBefore(scene, after) : null;
  if (!found) throw notFound('The shot as it was then');
  return found;
}

/**
 * The steps after a revision, oldest first, without a gap. Those of long ago are forgotten. `reached`: a revision that the
 * shot is known to have reached; where none is known the shot says so itself.
 */
export async function revisionsAfter(
  db: Database,
  shotId: string,
  after: number,
  reached?: number,
): Promise<Revision[]> {
  const now = reached ?? (await readRevision(db, shotId));
  const steps = after < now ? await readSteps(db, shotId, after) : [];
  const whole = steps.every(({ revision }, i) => revision === after + 1 + i);
  if (!whole || (after < now && steps.length === 0))
    throw new ProblemError('forgotten', 'What was done since then is no longer known step by step.');
  return steps;
}
