import type { Plane, PlaneId, Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { setPlaneMount } from './mounts.ts';
import { insertPlanes } from './plane-list.ts';
import { freeName } from './planes.ts';

/**
 * Planes as they can be put into another shot: with depth, size, keys and look. What rides on a plane that does not come
 * along stands on the stage by itself, where it is seen at `frame`.
 */
export function planesToCarry(scene: Scene, ids: ReadonlySet<PlaneId>, frame: number): Plane[] {
  const freed = planesOf(scene)
    .filter(({ id, mount }) => ids.has(id) && mount.on === 'plane' && !ids.has(mount.plane))
    .reduce((next, { id }) => {
      const mounted = setPlaneMount(next, id, { on: 'stage' }, frame);
      return mounted.ok ? mounted.value : next;
    }, scene);
  return planesOf(freed).filter(({ id }) => ids.has(id));
}

/**
 * Puts carried planes into a scene, in their order, in front of `before` (null: in front of all), under names and ids
 * that are free; what rode on one of them rides on it here too.
 */
export function pastePlanes(
  scene: Scene,
  carried: readonly Plane[],
  idOf: (index: number) => PlaneId,
  before: PlaneId | null,
): { readonly scene: Scene; readonly ids: PlaneId[] } {
  const ids = carried.map((_, i) => idOf(i));
  const newIdOf = new Map(carried.map(({ id }, i) => [id, ids[i]!]));
  const front = before ?? planesOf(scene)[0]?.id ?? null;
  const pasted = carried.reduce((next, plane, i) => {
    const { mount } = plane;
    const carrier = mount.on === 'plane' ? newIdOf.get(mount.plane) : undefined;
    const copy: Plane = {
      ...plane,
      id: ids[i]!,
      name: freeName(next, plane.name),
      locked: false,
      mount: mount.on !== 'plane' ? mount : carrier ? { on: 'plane', plane: carrier } : { on: 'stage' },
    };
    return insertPlanes(next, [copy], front);
  }, scene);
  return { scene: pasted, ids };
}
