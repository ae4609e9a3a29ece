import type { History, OpRequest, Problem } from '@keen-ridge/core/contract';
import {
  differenceBetween,
  type EditAction,
  inverseOf,
  type Landed,
  landPatch,
  NOBODY,
  overlap,
  type Patch,
  patchOfStep,
  type Revision,
  sceneBefore,
  touchedBy,
} from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import type { Database, Queryable } from '../db/connection/queryable.ts';
import {
  findEdit,
  findOp,
  insertEdit,
  keepStep,
  lockShot,
  newestSteps,
  readSteps,
  turnEdit,
} from '../db/history.ts';
import { readRevision, readSetUp, sceneOf } from '../db/shots.ts';
import { notFound, ProblemError } from '../faults/problems.ts';

/** How far back it is looked for who touched what an edit wants to touch. */
const LOOK_BACK = 500;

/**
 * Puts one op on top of the shot as it is, where nobody has touched since what it touches, and answers the steps after
 * the revision that the window knows, its own among them. The same opId is done only once.
 */
export async function applyOp(db: Database, shotId: string, request: OpRequest): Promise<Revision[]> {
  await db.transaction((tx) => takeOp(tx, shotId, request));
  return revisionsAfter(db, shotId, request.revision);
}

async function takeOp(tx: Queryable, shotId: string, request: OpRequest): Promise<void> {
  const shot = await lockShot(tx, shotId);
  if (!shot) throw notFound('This shot');
  const before = await findOp(tx, request.opId);
  if (before && before.shotId !== shotId)
    throw new ProblemError('bad-request', `The edit ${request.opId} belongs to another shot.`);
  if (before) return;
  const wanted = await wantedBy(tx, shotId, request);
  const { scene, patch } = await landedOn(tx, shotId, sceneOf(shot.scene), wanted.patch, {
    knows: request.op.kind === 'edit' && request.revision >= shot.revision,
    author: request.author.id,
  });
  const revision = shot.revision + 1;
  const { op } = request;
  if (op.kind === 'edit') await insertEdit(tx, shotId, request, op, { patch, revision });
  else if (op.kind === 'undo') await turnEdit(tx, op.edit, 'undone', request, { revision });
  else await turnEdit(tx, op.edit, 'done', request, { patch, revision });
  await keepStep(tx, { shotId, request, editId: wanted.editId, scene, patch, revision });
}

/** An edit that the server makes by itself, in somebody's name. */
export interface ServerEdit {
  readonly opId: string;
  readonly author: OpRequest['author'];
  readonly action: EditAction;
  readonly subject: string;
}

/**
 * Changes a shot as it is now by a function of its scene, as an edit like any other: seen by every window, undone by its
 * author. Nothing is kept where it changes nothing. Returns why it cannot be, or null where it was done.
 */
export async function changeShot(
  tx: Queryable,
  shotId: string,
  { opId, author, action, subject }: ServerEdit,
  change: (scene: Scene) => Scene,
): Promise<string | null> {
  const shot = await lockShot(tx, shotId);
  if (!shot) throw notFound('This shot');
  const before = sceneOf(shot.scene);
  const wanted = differenceBetween(before, change(before));
  if (wanted.length === 0) return null;
  const landed = landPatch(before, wanted);
  if (!landed.ok) return landed.error.code === 'conflict' ? 'it cannot be told apart' : landed.error.detail;
  const { scene, patch } = landed.value;
  const revision = shot.revision + 1;
  const op = { kind: 'edit', action, subject, patch } as const;
  const request: OpRequest = { opId, revision: shot.revision, author, op };
  await insertEdit(tx, shotId, request, op, { patch, revision });
  await keepStep(tx, { shotId, request, editId: opId, scene, patch, revision });
  return null;
}

/** The edit that an op is about, and what it wants to do to the scene. */
async function wantedBy(
  tx: Queryable,
  shotId: string,
  { opId, op, author }: OpRequest,
): Promise<{ editId: string; patch: Patch }> {
  if (op.kind === 'edit') return { editId: opId, patch: op.patch };
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

/** The steps after a revision, oldest first, without a gap. Those of long ago are forgotten. */
export async function revisionsAfter(db: Database, shotId: string, after: number): Promise<Revision[]> {
  const now = await readRevision(db, shotId);
  const steps = after < now ? await readSteps(db, shotId, after) : [];
  const whole = steps.every(({ revision }, i) => revision === after + 1 + i);
  if (!whole || (after < now && steps.length === 0))
    throw new ProblemError('forgotten', 'What was done since then is no longer known step by step.');
  return steps;
}
