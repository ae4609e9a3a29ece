import jsonPatch, { type Operation } from 'fast-json-patch';
import { MIGRATIONS, migrate, mountFrom2, planeTo5, type Scene, transformFrom2 } from '../scene/index.ts';
import { differenceBetween } from './difference.ts';
import type { Patch } from './patch.ts';

/** Scenes of this version and older ones had lists of planes, and patches that named places in them. */
const LAST_WITH_LISTS = 5;

/** An edit as it was stored with a scene of version 5 or older: RFC 6902, planes by their place in the list. */
export interface OldEdit {
  readonly patch: readonly Operation[];
  readonly inverse: readonly Operation[];
}

export interface OldHistory {
  readonly scene: unknown;
  /** The last one first. */
  readonly done: readonly OldEdit[];
  /** The next to be made again first. */
  readonly undone: readonly OldEdit[];
}

/** Patches by record for the same edits, in the same order; fewer where the way on is not to be found. */
export interface NewHistory {
  readonly done: readonly Patch[];
  readonly undone: readonly Patch[];
}

/**
 * What each edit of an old history did, by record and field. A place in a list means something only beside the list,
 * so the history is walked: back from the scene as it stands, and forth from it.
 */
export function historyByRecord({ scene, done, undone }: OldHistory): NewHistory {
  return {
    done: walked(
      scene,
      done,
      ({ inverse }) => inverse,
      (from, to) => differenceBetween(to, from),
    ),
    undone: walked(scene, undone, ({ patch }) => patch, differenceBetween),
  };
}

function walked(
  scene: unknown,
  edits: readonly OldEdit[],
  step: (edit: OldEdit) => readonly Operation[],
  difference: (from: Scene, to: Scene) => Patch,
): Patch[] {
  const patches: Patch[] = [];
  let here = migrate(scene, MIGRATIONS, LAST_WITH_LISTS);
  for (const edit of edits) {
    const from = here.ok ? migrate(here.value, MIGRATIONS) : here;
    const next = here.ok ? patched(here.value, step(edit)) : null;
    here = migrate(next, MIGRATIONS, LAST_WITH_LISTS);
    const to = here.ok ? migrate(here.value, MIGRATIONS) : here;
    if (!from.ok || !to.ok) break;
    patches.push(difference(from.value as Scene, to.value as Scene));
  }
  return patches;
}

function patched(scene: unknown, patch: readonly Operation[]): unknown {
  try {
    return jsonPatch.applyPatch(scene, patch.map(to5), true, false, true).newDocument;
  } catch (error) {
    // A step that leads nowhere: what lies beyond it can no longer be undone.
    if (error instanceof jsonPatch.JsonPatchError || error instanceof TypeError) return null;
    throw error;
  }
}

/** A step as scenes of version 5 mean it: what it says of planes is told apart by its shape. */
function to5(step: Operation): Operation {
  const path = step.path.replace(/^(\/planes\/\d+)\/art(\/|$)/, '$1/content/art$2');
  if (!('value' in step)) return { ...step, path };
  return { ...step, path, value: valueTo5(path, step.value) };
}

function valueTo5(path: string, value: unknown): unknown {
  if (/^\/planes\/(\d+|-)$/.test(path)) return planeTo5(value);
  if (/^\/planes\/\d+\/mount$/.test(path)) return mountFrom2(value);
  return /^\/planes\/\d+\/transform$/.test(path) ? transformFrom2(value) : value;
}
