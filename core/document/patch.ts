import jsonPatch from 'fast-json-patch';
import { z } from 'zod';
import { fail, type Result } from '../units/index.ts';
import { migratePatch } from './migrations.ts';
import { readScene, type SceneFault } from './read-scene.ts';
import type { Scene } from './scene.ts';

const pointer = z
  .string()
  .max(400)
  .regex(/^(\/|$)/, 'is not a JSON Pointer')
  .refine((path) => !path.split('/').includes('__proto__'), 'names what no scene has');

/** The operations of RFC 6902 that a scene edit uses. */
export const patchSchema = z
  .array(
    z.discriminatedUnion('op', [
      z.strictObject({ op: z.literal('add'), path: pointer, value: z.json() }),
      z.strictObject({ op: z.literal('replace'), path: pointer, value: z.json() }),
      z.strictObject({ op: z.literal('remove'), path: pointer }),
    ]),
  )
  .max(100_000);
export type Patch = z.infer<typeof patchSchema>;

/** The RFC 6902 patch that leads from one scene to the other; empty when they are the same. */
export const patchBetween = (before: Scene, after: Scene): Patch =>
  patchSchema.parse(jsonPatch.compare(before, after));

export type PatchFault = SceneFault | { readonly code: 'does-not-apply'; readonly detail: string };

/** The scene after `patch`, validated; the argument is left as it was. */
export function applyScenePatch(scene: Scene, patch: Patch): Result<Scene, PatchFault> {
  let patched: unknown;
  try {
    patched = jsonPatch.applyPatch(scene, migratePatch(patch), true, false, true).newDocument;
  } catch (error) {
    if (error instanceof jsonPatch.JsonPatchError)
      return fail({ code: 'does-not-apply', detail: `${error.name} at operation ${error.index ?? 0}` });
    // A path that leads through what is no object or list ends the library with one of these.
    if (error instanceof TypeError)
      return fail({ code: 'does-not-apply', detail: `a path leads nowhere (${error.message})` });
    throw error;
  }
  return readScene(patched);
}

export interface SceneChange {
  readonly scene: Scene;
  readonly patch: Patch;
  readonly inverse: Patch;
}

/** What an edit did, as data: the new scene, the way there and the way back. Null when nothing changed. */
export function changeBetween(before: Scene, after: Scene): SceneChange | null {
  const patch = patchBetween(before, after);
  return patch.length === 0 ? null : { scene: after, patch, inverse: patchBetween(after, before) };
}
