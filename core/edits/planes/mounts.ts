import type { Mount, Plane, PlaneId, Scene } from '../../scene/index.ts';
import { planeOf, planesOf } from '../../scene/records/index.ts';
import { type CameraPose, type Carrier, remount } from '../../stage/index.ts';
import { newPlane } from '../../staging/content/index.ts';
import {
  cameraPoseAt,
  carrierOf,
  mountFault,
  posedPlane,
  restOf,
  stageFrameOf,
  withMovesScaled,
} from '../../staging/index.ts';
import { fail, ok, type Result } from '../../units/index.ts';
import { withSizeHeld } from './held-size.ts';
import { withSlideHeld } from './held-slides.ts';
import { insertPlanes } from './plane-list.ts';
import { withFreePlane, withPlane } from './with-planes.ts';

/**
 * Remounts a plane, keeping the picture at `atFrame` where the camera sees it. Fails with a sentence where planes
 * would ride round in a ring; a locked plane stays as it is.
 */
export function setPlaneMount(
  scene: Scene,
  id: PlaneId,
  mount: Mount,
  atFrame: number,
): Result<Scene, string> {
  const moved = planeOf(scene, id);
  if (!moved) return ok(scene);
  // The plane itself comes first, so that a ring is told from where it was closed.
  const fault = mountFault([{ ...moved, mount }, ...planesOf(scene).filter((plane) => plane !== moved)]);
  if (fault) return fail(`${fault}.`);
  const pose = cameraPoseAt(scene, atFrame);
  const goal = carrierOf(scene, { mount }, atFrame);
  const mounted = withFreePlane(scene, id, (plane) => {
    const held = remountPosed(scene, pose, plane, carrierOf(scene, plane, atFrame), goal, atFrame);
    return { ...(held ?? plane), mount };
  });
  const riding = withRidersHeld(scene, withSlideHeld(scene, mounted, id, atFrame), id, atFrame);
  return ok(withSizeHeld(scene, riding, atFrame));
}

/**
 * `remount` for a plane that moves: as it stands at `atFrame`. Its own moves keep their size on the stage; those of a
 * plane that comes onto a turned carrier go along that one's axes.
 */
function remountPosed(
  scene: Scene,
  pose: CameraPose,
  plane: Plane,
  from: Carrier,
  to: Carrier,
  atFrame: number,
): Plane | null {
  const posed = posedPlane(plane, atFrame);
  const held = remount(stageFrameOf(scene), pose, posed, from, to);
  return held && restOf(withMovesScaled(held, from.depthScale / to.depthScale), atFrame);
}

/**
 * What rides on `id` keeps its picture too. On the same root it does so by itself; between stage and camera the plane
 * takes another size, and with it the depths of what rides on it.
 */
function withRidersHeld(before: Scene, after: Scene, id: PlaneId, atFrame: number): Scene {
  const mount = { on: 'plane', plane: id } as const;
  const [from, to] = [carrierOf(before, { mount }, atFrame), carrierOf(after, { mount }, atFrame)];
  if (from.root === to.root) return after;
  const pose = cameraPoseAt(before, atFrame);
  return planesOf(before)
    .filter((plane) => plane.mount.on === 'plane' && plane.mount.plane === id)
    .reduce((changed, rider) => {
      const held = remountPosed(before, pose, rider, from, to, atFrame) ?? rider;
      const remounted = withPlane(changed, rider.id, () => held);
      return withRidersHeld(before, withSlideHeld(before, remounted, rider.id, atFrame), rider.id, atFrame);
    }, after);
}

/** What rides on the planes of `going` takes the mount that is left under them; the picture stays on every frame. */
export function remountOrphans(scene: Scene, going: ReadonlySet<PlaneId>): Scene {
  const orphans = planesOf(scene).filter(
    ({ id, mount }) => !going.has(id) && mount.on === 'plane' && going.has(mount.plane),
  );
  return orphans.reduce((changed, orphan) => {
    let { mount } = orphan;
    while (mount.on === 'plane' && going.has(mount.plane)) {
      const under: PlaneId = mount.plane;
      mount = planeOf(scene, under)?.mount ?? { on: 'stage' };
    }
    const [from, to] = [carrierOf(scene, orphan, 1), carrierOf(scene, { mount }, 1)];
    const pose = cameraPoseAt(scene, 1);
    return withPlane(changed, orphan.id, (plane) => ({
      ...(remountPosed(scene, pose, plane, from, to, 1) ?? plane),
      mount,
    }));
  }, scene);
}

/**
 * Puts an empty carrier under `ids`, at the depth of the nearest of them and with its anchor on the axis of home, so
 * that they move as one. Planes that ride on others of `ids` already stay on those.
 */
export function addCarrier(
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  carrier: { id: PlaneId; name: string },
  atFrame: number,
): Scene {
  const riders = planesOf(scene).filter(
    ({ id, mount }) => ids.has(id) && !(mount.on === 'plane' && ids.has(mount.plane)),
  );
  const [first] = riders;
  if (!first) return scene;
  const { widthPx, heightPx } = scene.frame;
  const plane = {
    ...newPlane(carrier.id, carrier.name, { kind: 'shapes', widthPx, heightPx, shapes: [] }),
    mount: first.mount,
    depthSpx: Math.min(...riders.map((rider) => rider.depthSpx)),
  };
  const added = insertPlanes(scene, [plane], first.id);
  return riders.reduce((changed, { id }) => {
    const mounted = setPlaneMount(changed, id, { on: 'plane', plane: carrier.id }, atFrame);
    return mounted.ok ? mounted.value : changed;
  }, added);
}
