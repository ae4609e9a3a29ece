import { memo } from '../../units/index.ts';
import { LIMITS, type Plane, type PlaneId, type Scene } from '../index.ts';
import { arranged } from './order.ts';

type Listed = Pick<Scene, 'planes' | 'order'>;

/** The plane of that id, which may be any text, if the scene has one. */
export const planeOf = ({ planes }: Pick<Scene, 'planes'>, id: string | undefined): Plane | undefined =>
  id !== undefined && Object.hasOwn(planes, id) ? planes[id as PlaneId] : undefined;

const listed = memo((planes: Scene['planes'], order: Scene['order']): readonly Plane[] =>
  order.flatMap((id) => planeOf({ planes }, id) ?? []),
);

/** All planes as the Stand lists them, on top first. The same list for the same records and order. */
export const planesOf = ({ planes, order }: Listed): readonly Plane[] => listed(planes, order);

/** The scene with just these planes, in this order. */
export function withPlaneList(scene: Scene, list: readonly Plane[]): Scene {
  const planes = Object.fromEntries(list.map((plane) => [plane.id, plane]));
  const order = arranged(
    scene.order,
    list.map(({ id }) => id),
  );
  return { ...scene, planes, order: order.length > LIMITS.order.max ? list.map(({ id }) => id) : order };
}

/** The scene with some of its planes changed. Ids that it does not have are passed over. */
export function withPlanes(scene: Scene, ids: Iterable<PlaneId>, change: (plane: Plane) => Plane): Scene {
  const planes = { ...scene.planes };
  let changed = false;
  for (const id of ids) {
    const plane = planeOf(scene, id);
    if (!plane) continue;
    planes[id] = change(plane);
    changed ||= planes[id] !== plane;
  }
  // Where nothing changes it is the same scene: whoever remembers by it need not look again.
  return changed ? { ...scene, planes } : scene;
}

export const withEachPlane = (scene: Scene, change: (plane: Plane) => Plane): Scene =>
  withPlanes(scene, scene.order, change);
