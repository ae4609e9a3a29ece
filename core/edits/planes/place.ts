import {
  type Affine,
  applyAffine,
  type Box,
  compose,
  invertAffine,
  mapBox,
  type Point,
} from '../../geometry/index.ts';
import type { Plane, PlaneId, Scene } from '../../scene/index.ts';
import { planeOf, planesOf, withEachPlane } from '../../scene/records/index.ts';
import { artToCarrier, placePlane, poseFor, stageToFrame } from '../../stage/index.ts';
import { factsOf } from '../../staging/content/index.ts';
import {
  cameraPoseAt,
  carrierOf,
  posedPlane,
  restOf,
  seenBox,
  stageFrameOf,
  standingAt,
} from '../../staging/index.ts';
import { withFreePlane, withFreePlanes } from './with-planes.ts';

/** `ids` without the planes that ride on another of them: those go with what they ride on. */
export function withoutRiders(scene: Scene, ids: ReadonlySet<PlaneId>): Set<PlaneId> {
  const mounts = new Map(planesOf(scene).map(({ id, mount }) => [id, mount]));
  const rides = (id: PlaneId): boolean => {
    const mount = mounts.get(id);
    return mount?.on === 'plane' && (ids.has(mount.plane) || rides(mount.plane));
  };
  return new Set([...ids].filter((id) => !rides(id)));
}

/** The bounds of a plane's paint on the frame, output px; null where there is none or the camera has passed it. */
export function paintOnFrame(scene: Scene, plane: Plane, frame: number): Box | null {
  const { painted } = factsOf(plane.content);
  const { artToFrame } = placePlane(
    stageFrameOf(scene),
    cameraPoseAt(scene, frame),
    standingAt(scene, plane, frame),
  );
  return painted && artToFrame ? mapBox(artToFrame, painted) : null;
}

/** From output px of the frame at `frame` to px of the plane's carrier; null when it is not in front. */
export function frameToCarrier(scene: Scene, plane: Plane, frame: number): Affine | null {
  const stage = stageFrameOf(scene);
  const { carrier, root, depthSpx } = standingAt(scene, plane, frame);
  const pose = poseFor(stage, cameraPoseAt(scene, frame), root);
  const distance = depthSpx - pose.zSpx;
  return distance > 0 ? invertAffine(compose(stageToFrame(stage, pose, distance), carrier.toStage)) : null;
}

/** A step on the frame at `frame` (output px) as a step in px of the plane's carrier; null behind the camera. */
function stepOnCarrier(scene: Scene, plane: Plane, byPx: Point, frame: number): Point | null {
  const back = frameToCarrier(scene, plane, frame);
  return back && applyAffine({ ...back, e: 0, f: 0 }, byPx);
}

/** Slides planes so that they move by `byPx` output px on the frame, as the camera at `frame` sees them. */
export function movePlanesOnFrame(
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  byPx: Point,
  frame: number,
): Scene {
  return withFreePlanes(scene, withoutRiders(scene, ids), (plane) => {
    const step = stepOnCarrier(scene, plane, byPx, frame);
    const { transform } = plane;
    return step
      ? {
          ...plane,
          transform: { ...transform, xSpx: transform.xSpx + step.x, ySpx: transform.ySpx + step.y },
        }
      : plane;
  });
}

/** Puts the anchor on another point of the art; the picture stays, and so does what rides on the plane. */
export function setPlaneAnchor(scene: Scene, id: PlaneId, artPx: Point, atFrame: number): Scene {
  const before = planeOf(scene, id);
  if (!before || before.locked) return scene;
  const { anchorXArtPx, anchorYArtPx } = before.transform;
  const [dx, dy] = [artPx.x - anchorXArtPx, artPx.y - anchorYArtPx];
  return withEachPlane(scene, (plane) => {
    const { transform } = plane;
    if (plane.id === id) {
      const posed = posedPlane(plane, atFrame);
      const { x, y } = applyAffine(artToCarrier(posed.transform), artPx);
      const anchored = { xSpx: x, ySpx: y, anchorXArtPx: artPx.x, anchorYArtPx: artPx.y };
      return restOf({ ...posed, transform: { ...posed.transform, ...anchored } }, atFrame);
    }
    // What rides on it counts from its anchor.
    const rides = plane.mount.on === 'plane' && plane.mount.plane === id;
    return rides
      ? { ...plane, transform: { ...transform, xSpx: transform.xSpx - dx, ySpx: transform.ySpx - dy } }
      : plane;
  });
}

/** Turns planes over where they stand: the middle of the paint keeps its place. */
export const flipPlanes = (scene: Scene, ids: ReadonlySet<PlaneId>, way: 'across' | 'down'): Scene =>
  withFreePlanes(scene, ids, (plane) => {
    const { widthPx, heightPx, painted } = factsOf(plane.content);
    const box = painted ?? { x0: 0, y0: 0, x1: widthPx, y1: heightPx };
    const middle = { x: (box.x0 + box.x1) / 2, y: (box.y0 + box.y1) / 2 };
    const { transform } = plane;
    const flipped =
      way === 'across'
        ? { ...transform, scaleX: -transform.scaleX }
        : { ...transform, scaleY: -transform.scaleY };
    const [before, after] = [transform, flipped].map((t) => applyAffine(artToCarrier(t), middle)) as [
      Point,
      Point,
    ];
    return {
      ...plane,
      transform: {
        ...flipped,
        xSpx: flipped.xSpx + before.x - after.x,
        ySpx: flipped.ySpx + before.y - after.y,
      },
    };
  });

/**
 * Sizes a plane, keeping its proportions, so that its paint covers all that the whole move sees at its depth, or just
 * fits into it; and puts its middle there. Turned planes are measured by the bounds of their paint.
 */
export function fillFrame(scene: Scene, id: PlaneId, how: 'fit' | 'cover'): Scene {
  return withFreePlane(scene, id, (plane) => {
    const { painted } = factsOf(plane.content);
    const seen = seenBox(scene, plane.depthSpx, carrierOf(scene, plane, 1));
    if (!painted || !seen) return plane;
    const { transform } = plane;
    const box = mapBox(artToCarrier(transform), painted);
    const [wide, high] = [(seen.x1 - seen.x0) / (box.x1 - box.x0), (seen.y1 - seen.y0) / (box.y1 - box.y0)];
    const k = how === 'cover' ? Math.max(wide, high) : Math.min(wide, high);
    const off = {
      x: k * ((box.x0 + box.x1) / 2 - transform.xSpx),
      y: k * ((box.y0 + box.y1) / 2 - transform.ySpx),
    };
    return {
      ...plane,
      transform: {
        ...transform,
        scaleX: transform.scaleX * k,
        scaleY: transform.scaleY * k,
        xSpx: (seen.x0 + seen.x1) / 2 - off.x,
        ySpx: (seen.y0 + seen.y1) / 2 - off.y,
      },
    };
  });
}
