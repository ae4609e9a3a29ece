import type { Scene } from '../scene/index.ts';
import { fail, ok, type Result } from '../units/index.ts';
import type { EditAction } from './actions.ts';
import type { Author } from './author.ts';
import { differenceBetween } from './difference.ts';
import { type HistoryEntry, type Op, patchOfStep, type Revision, type Stacks, stacksAfter } from './entry.ts';
import { type LandingFault, landPatch } from './land.ts';
import { inverseOf, type Patch } from './patch.ts';
import { sameData } from './same-data.ts';

/** An op that the server has not answered yet. */
export interface Pending {
  readonly opId: string;
  readonly kind: Op['kind'];
  readonly entry: HistoryEntry;
  readonly patch: Patch;
  /** The scene with it. */
  readonly after: Scene;
}

/**
 * One window's copy of a shot: the scene at the last revision that it knows of, and on top of it what its author has
 * done since. Values only; every function returns the next one.
 */
export interface Replica {
  readonly author: Author;
  readonly revision: number;
  readonly base: Scene;
  readonly stacks: Stacks;
  readonly pending: readonly Pending[];
}

/** The scene as its author sees it. */
export const sceneOfReplica = ({ base, pending }: Replica): Scene => pending.at(-1)?.after ?? base;

/** What its author may take back and make again, the ops that wait counted as done. */
export const stacksOfReplica = ({ stacks, pending }: Replica): Stacks =>
  pending.reduce((after, { kind, entry }) => stacksAfter(after, kind, entry, true), stacks);

export interface NewEdit {
  readonly opId: string;
  readonly action: EditAction;
  readonly subject: string;
  readonly scene: Scene;
  /** ISO 8601. */
  readonly at: string;
}

/** The replica with another scene as one edit; null where it changes nothing. */
export function withEdit(replica: Replica, { opId, action, subject, scene, at }: NewEdit): Replica | null {
  const patch = differenceBetween(sceneOfReplica(replica), scene);
  if (patch.length === 0) return null;
  const entry = { id: opId, action, subject, patch, author: replica.author, at };
  return withPending(replica, { opId, kind: 'edit', entry, patch, after: scene });
}

export type TakeBackFault = { readonly code: 'nothing' } | (LandingFault & { readonly entry: HistoryEntry });

/**
 * Takes one of the author's edits back, the last one where none is named, if nobody has touched since what it touched.
 * `nothing`: there is no such edit, or it has been taken back.
 */
export function withUndo(replica: Replica, opId: string, editId?: string): Result<Replica, TakeBackFault> {
  const { undo } = stacksOfReplica(replica);
  const entry = editId === undefined ? undo.at(-1) : undo.find(({ id }) => id === editId);
  return withStep(replica, opId, 'undo', entry);
}

/** Makes the edit again that its author took back last. */
export const withRedo = (replica: Replica, opId: string): Result<Replica, TakeBackFault> =>
  withStep(replica, opId, 'redo', stacksOfReplica(replica).redo.at(-1));

function withStep(
  replica: Replica,
  opId: string,
  kind: 'undo' | 'redo',
  entry: HistoryEntry | undefined,
): Result<Replica, TakeBackFault> {
  if (!entry) return fail({ code: 'nothing' });
  const landed = landPatch(sceneOfReplica(replica), kind === 'undo' ? inverseOf(entry.patch) : entry.patch);
  if (!landed.ok) return fail({ ...landed.error, entry });
  const { patch, scene } = landed.value;
  const now = kind === 'redo' ? { ...entry, patch } : entry;
  return ok(withPending(replica, { opId, kind, entry: now, patch, after: scene }));
}

const withPending = (replica: Replica, op: Pending): Replica => ({
  ...replica,
  pending: [...replica.pending, op],
});

export interface Received {
  readonly replica: Replica;
  /** Steps of others, or of its author in another window. */
  readonly foreign: readonly Revision[];
  /** Ops that no longer land: somebody else was there first. */
  readonly dropped: readonly Pending[];
  /** A revision is missing between what is known and what came: it must be asked for. */
  readonly gap: boolean;
}

/** Takes in steps of the server, in order; those that are known already are passed over. */
export function received(replica: Replica, revisions: readonly Revision[]): Received {
  let { revision, base, stacks, pending } = replica;
  const foreign: Revision[] = [];
  let gap = false;
  for (const step of revisions) {
    if (step.revision <= revision) continue;
    const landed = step.revision === revision + 1 ? landPatch(base, patchOfStep(step)) : null;
    if (!landed?.ok) {
      gap = true;
      break;
    }
    revision = step.revision;
    const mine = pending[0]?.opId === step.opId ? pending[0] : undefined;
    // What came back as it was sent is what is shown already: nothing of it is made anew.
    base =
      mine && foreign.length === 0 && sameData(mine.patch, patchOfStep(step))
        ? mine.after
        : landed.value.scene;
    if (mine) pending = pending.slice(1);
    else foreign.push(step);
    stacks = stacksAfter(stacks, step.kind, step.entry, step.entry.author.id === replica.author.id);
  }
  const next = { ...replica, revision, base, stacks, pending };
  if (foreign.length === 0) return { replica: next, foreign, dropped: [], gap };
  return { ...relanded(next), foreign, gap };
}

/** The replica without an op that the server refused, and without what was made on it. */
export const withoutOp = (
  replica: Replica,
  opId: string,
): { readonly replica: Replica; readonly dropped: readonly Pending[] } => {
  const refused = replica.pending.filter((op) => op.opId === opId);
  const rest = relanded({ ...replica, pending: replica.pending.filter((op) => op.opId !== opId) });
  return { replica: rest.replica, dropped: [...refused, ...rest.dropped] };
};

/** A replica of a shot as it was read, with ops on top that its author has not sent yet. */
export const restored = (
  { revision, scene, undo, redo }: Stacks & { readonly revision: number; readonly scene: Scene },
  author: Author,
  pending: readonly Omit<Pending, 'after'>[],
): { readonly replica: Replica; readonly dropped: readonly Pending[] } =>
  relanded({
    author,
    revision,
    base: scene,
    stacks: { undo, redo },
    pending: pending.map((op) => ({ ...op, after: scene })),
  });

/** The ops that wait, landed anew on the base; those that no longer do are dropped. */
function relanded(replica: Replica): { readonly replica: Replica; readonly dropped: readonly Pending[] } {
  const kept: Pending[] = [];
  const dropped: Pending[] = [];
  let scene = replica.base;
  for (const op of replica.pending) {
    const landed = landPatch(scene, op.patch);
    if (!landed.ok) {
      dropped.push(op);
      continue;
    }
    const { patch } = landed.value;
    scene = landed.value.scene;
    const entry = op.kind === 'undo' ? op.entry : { ...op.entry, patch };
    kept.push({ ...op, entry, patch, after: scene });
  }
  return { replica: { ...replica, pending: kept }, dropped };
}

/** The scene as it was before some steps that led to `scene`, the oldest first; null where they did not lead there. */
export function sceneBefore(scene: Scene, revisions: readonly Revision[]): Scene | null {
  let at = scene;
  for (const step of revisions.toReversed()) {
    const back = landPatch(at, inverseOf(patchOfStep(step)));
    if (!back.ok) return null;
    at = back.value.scene;
  }
  return at;
}
