import type { PlaneId, Scene } from '../scene/index.ts';
import { mergedOrder } from '../scene/records/index.ts';
import { checkedAfter } from '../staging/check/index.ts';
import { fail, ok, type Result } from '../units/index.ts';
import { type FieldChange, fieldChanges, type Json, type Patch, patchOf } from './patch.ts';
import { pointerParts } from './pointer.ts';
import { isRecord, sameData } from './same-data.ts';

export type LandingFault =
  /** Fields that are no longer as the patch found them. */
  | { readonly code: 'conflict'; readonly paths: readonly string[] }
  /** The patch is not of ours, or what it would make is no scene. */
  | { readonly code: 'does-not-apply'; readonly detail: string };

export interface Landed {
  readonly scene: Scene;
  /** As it was made here: the order of the planes is that of this scene. */
  readonly patch: Patch;
}

/**
 * Puts a patch on top of a scene on which it may not have been made. It lands where every field that it touches is as
 * it found it, and what it makes is a scene that can be staged; planes that were added, deleted or moved in the order
 * are merged. All that it does not touch is shared with `scene`, records by identity; `scene` itself stays as it was.
 */
export function landPatch(scene: Scene, patch: Patch): Result<Landed, LandingFault> {
  const applied = applyPatch(scene, patch);
  if (!applied.ok) return applied;
  const checked = checkedAfter(scene, applied.value.scene);
  return checked.ok ? applied : fail({ code: 'does-not-apply', detail: checked.error.detail });
}

/** `landPatch` without the check that a scene comes of it: for scenes that are only looked at. */
export function applyPatch(scene: Scene, patch: Patch): Result<Landed, LandingFault> {
  const changes = fieldChanges(patch);
  if (!changes) return fail({ code: 'does-not-apply', detail: 'it does not say what was there before it' });
  const conflicts: string[] = [];
  const landed: FieldChange[] = [];
  const after = new Changing(scene as unknown as Json);
  for (const change of changes) {
    const here = change.path === '/order' ? orderChange(change, scene.order) : change;
    const parts = pointerParts(change.path);
    if (
      !here ||
      !sameData(fieldAt(after.root, parts), here.was) ||
      !isRecord(fieldAt(after.root, parts.slice(0, -1)))
    )
      conflicts.push(change.path);
    else if (!sameData(here.was, here.is)) {
      after.set(parts, here.is);
      landed.push(here);
    }
  }
  if (conflicts.length > 0) return fail({ code: 'conflict', paths: conflicts });
  return ok({ scene: after.root as unknown as Scene, patch: patchOf(landed) });
}

/** A change of the order, done to `order` instead of the one that it was made on; null where nobody can say how. */
function orderChange({ path, was, is }: FieldChange, order: readonly PlaneId[]): FieldChange | null {
  if (!isOrder(was) || !isOrder(is)) return null;
  const merged = mergedOrder(was, is, order);
  return merged && { path, was: [...order], is: merged };
}

const isOrder = (value: Json | undefined): value is PlaneId[] =>
  Array.isArray(value) && value.every((id) => typeof id === 'string');

/** What stands at a path; `undefined` where it leads nowhere. */
function fieldAt(data: Json, parts: readonly string[]): Json | undefined {
  let at: Json | undefined = data;
  for (const part of parts) at = isRecord(at) && Object.hasOwn(at, part) ? (at[part] as Json) : undefined;
  return at;
}

/** A scene that is changed field by field: what is changed of it is copied once, all else is shared. */
class Changing {
  private readonly own = new Set<object>();
  root: Json;

  constructor(root: Json) {
    this.root = root;
  }

  /** Puts a value where the path leads, through records that are there; `undefined` takes the field away. */
  set(parts: readonly string[], value: Json | undefined): void {
    let at = this.owned(this.root as Record<string, Json>);
    this.root = at;
    for (const part of parts.slice(0, -1)) {
      const next = this.owned(at[part] as Record<string, Json>);
      at[part] = next;
      at = next;
    }
    const name = parts.at(-1) as string;
    delete at[name];
    if (value !== undefined) at[name] = value;
  }

  private owned(record: Record<string, Json>): Record<string, Json> {
    if (this.own.has(record)) return record;
    const copy = { ...record };
    this.own.add(copy);
    return copy;
  }
}
