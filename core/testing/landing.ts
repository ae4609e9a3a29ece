import { differenceBetween, inverseOf, landPatch, type Patch } from '../history/index.ts';
import type { Scene } from '../scene/index.ts';

/** The scene with a patch on it; throws where it does not land. */
export function landed(scene: Scene, patch: Patch): Scene {
  const on = landPatch(scene, patch);
  if (!on.ok) throw new Error(JSON.stringify(on.error));
  return on.value.scene;
}

/** What an edit did as data, led there and back by it alone. */
export function thereAndBack(before: Scene, after: Scene) {
  const patch = differenceBetween(before, after);
  return { patch, there: landed(before, patch), back: landed(after, inverseOf(patch)) };
}

/** A scene as text, whatever the order of its names, which is no part of JSON. */
export const sceneBytes = (scene: Scene): string =>
  JSON.stringify(scene, (_name, value: unknown) =>
    typeof value === 'object' && value !== null && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([p], [q]) => (p < q ? -1 : 1)))
      : value,
  );
