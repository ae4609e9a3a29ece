import { depthAtSpeed, holdPicture, type Mount, type PlaneTransform, remount } from '../../stage/index.ts';
import { NEAREST_DEPTH_FRACTION } from '../../units/index.ts';
import { cameraPoseAt, stageFrameOf } from '../camera-at.ts';
import type { Plane, PlaneId, Scene } from '../scene.ts';

const withPlanes = (scene: Scene, ids: ReadonlySet<PlaneId>, change: (plane: Plane) => Plane): Scene => ({
  ...scene,
  planes: scene.planes.map((plane) => (ids.has(plane.id) ? change(plane) : plane)),
});

const withPlane = (scene: Scene, id: PlaneId, change: (plane: Plane) => Plane): Scene =>
  withPlanes(scene, new Set([id]), change);

/** Puts new planes on top of the list, in the order given (first on top). */
export const addPlanes = (scene: Scene, planes: readonly Plane[]): Scene => ({
  ...scene,
  planes: [...planes, ...scene.planes],
});

export const deletePlanes = (scene: Scene, ids: ReadonlySet<PlaneId>): Scene => ({
  ...scene,
  planes: scene.planes.filter((plane) => !ids.has(plane.id)),
});

/** Renames a plane; white space at the ends goes, and an empty name changes nothing. */
export function renamePlane(scene: Scene, id: PlaneId, name: string): Scene {
  const trimmed = name.trim();
  return trimmed === '' ? scene : withPlane(scene, id, (plane) => ({ ...plane, name: trimmed }));
}

export const setPlanesHidden = (scene: Scene, ids: ReadonlySet<PlaneId>, hidden: boolean): Scene =>
  withPlanes(scene, ids, (plane) => ({ ...plane, hidden }));

/** `opacity` in [0, 1]. */
export const setPlanesOpacity = (scene: Scene, ids: ReadonlySet<PlaneId>, opacity: number): Scene =>
  withPlanes(scene, ids, (plane) => ({ ...plane, opacity: Math.min(1, Math.max(0, opacity)) }));

export interface DepthChange {
  readonly depthSpx: number;
  /** The frame the artist stands at: the picture is held as that frame's camera sees it. */
  readonly atFrame: number;
  readonly holdPicture: boolean;
}

/** The nearest depth that a plane may take: just in front of the home camera. */
export const nearestDepthSpx = (scene: Scene): number => -NEAREST_DEPTH_FRACTION * scene.homeDistanceSpx;

/** Moves a plane in depth. Where no picture can be held (plane or goal behind the camera) only the depth changes. */
export function setPlaneDepth(scene: Scene, id: PlaneId, change: DepthChange): Scene {
  const depthSpx = Math.max(nearestDepthSpx(scene), change.depthSpx);
  const pose = cameraPoseAt(scene, change.atFrame);
  return withPlane(scene, id, (plane) => {
    const held = change.holdPicture ? holdPicture(stageFrameOf(scene), pose, plane, depthSpx) : null;
    return held ?? { ...plane, depthSpx };
  });
}

/** The same by speed relative to the datum (1 = the datum); `speed` > 0. */
export const setPlaneSpeed = (
  scene: Scene,
  id: PlaneId,
  speed: number,
  change: Omit<DepthChange, 'depthSpx'>,
): Scene => setPlaneDepth(scene, id, { ...change, depthSpx: depthAtSpeed(speed, scene.homeDistanceSpx) });

export const setPlaneTransform = (scene: Scene, id: PlaneId, part: Partial<PlaneTransform>): Scene =>
  withPlane(scene, id, (plane) => ({ ...plane, transform: { ...plane.transform, ...part } }));

/** Remounts a plane, keeping the picture at `atFrame` where the camera sees it. */
export function setPlaneMount(scene: Scene, id: PlaneId, mount: Mount, atFrame: number): Scene {
  const pose = cameraPoseAt(scene, atFrame);
  return withPlane(
    scene,
    id,
    (plane) => remount(stageFrameOf(scene), pose, plane, mount) ?? { ...plane, mount },
  );
}

/** Moves a plane to `toIndex` of the list: it decides only between planes at the same distance. */
export function reorderPlane(scene: Scene, id: PlaneId, toIndex: number): Scene {
  const plane = scene.planes.find((p) => p.id === id);
  if (!plane) return scene;
  const rest = scene.planes.filter((p) => p.id !== id);
  return { ...scene, planes: [...rest.slice(0, toIndex), plane, ...rest.slice(toIndex)] };
}
