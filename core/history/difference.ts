import type { Scene } from '../scene/index.ts';
import { type FieldChange, type Json, type Patch, patchOf } from './patch.ts';
import { pointerOf } from './pointer.ts';
import { fieldsOf, isRecord, sameData } from './same-data.ts';

/** Fields that tell what kind of thing a record is: of another kind, the whole record is another one. */
const KINDS = ['kind', 'on', 'how'] as const;

/**
 * The patch that leads from one scene to the other, by record and field; empty when they are the same. Lists count as
 * one field. Parts that both scenes share are not looked into.
 */
export function differenceBetween(before: Scene, after: Scene): Patch {
  const changes: FieldChange[] = [];
  collect(before, after, [], changes);
  return patchOf(changes);
}

function collect(was: unknown, is: unknown, parts: readonly string[], into: FieldChange[]): void {
  if (was === is) return;
  if (isRecord(was) && isRecord(is) && KINDS.every((name) => was[name] === is[name])) {
    for (const name of new Set([...fieldsOf(was), ...fieldsOf(is)]))
      collect(was[name], is[name], [...parts, name], into);
    return;
  }
  if (!sameData(was, is)) into.push({ path: pointerOf(parts), was: was as Json, is: is as Json });
}
