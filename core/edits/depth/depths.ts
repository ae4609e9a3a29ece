import type { Plane, PlaneId, Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { depthOnCarrier, holdPicture, type Spread, scaledDepth, spreadDepths } from '../../stage/index.ts';
import {
  cameraPoseAt,
  carrierOf,
  posedPlane,
  restOf,
  stageFault,
  stageFrameOf,
  standingsAt,
  withMovesScaled,
} from '../../staging/index.ts';
import { NEAREST_DEPTH_FRACTION } from '../../units/index.ts';
import { withFreePlane, withSizeHeld, withSlidesHeld } from '../planes/index.ts';

/** How depths change: where the artist stands, and whether what is seen from there is held. */
export interface DepthMode {
  /** The picture is held as this frame's camera sees it. */
  readonly atFrame: number;
  readonly holdPicture: boolean;
}

/** The nearest depth that a plane may take: just in front of the home camera. */
export const nearestDepthSpx = (scene: Pick<Scene, 'homeDistanceSpx'>): number =>
  -NEAREST_DEPTH_FRACTION * scene.homeDistanceSpx;

/**
 * Moves a plane to `depthSpx` from the datum, whatever it rides on. Where no picture can be held (plane or goal behind
 * the camera) only the depth changes. Nothing changes where something that rides on it would fall behind the camera.
 */
export const setPlaneDepth = (
  scene: Scene,
  id: PlaneId,
  { depthSpx, ...mode }: DepthMode & { readonly depthSpx: number },
): Scene => setPlanesDepth(scene, new Map([[id, depthSpx]]), mode);

/** Moves planes to depths from the datum, carriers before what rides on them, so that each ends where it was sent. */
export function setPlanesDepth(
  scene: Scene,
  depthsSpx: ReadonlyMap<PlaneId, number>,
  { atFrame, holdPicture: held }: DepthMode,
): Scene {
  const frame = stageFrameOf(scene);
  const pose = cameraPoseAt(scene, atFrame);
  const changed = carriersFirst(scene, [...depthsSpx.keys()]).reduce((next, id) => {
    const depthSpx = Math.max(nearestDepthSpx(scene), depthsSpx.get(id) as number);
    const sent = withFreePlane(next, id, (plane) => {
      const carrier = carrierOf(next, plane, atFrame);
      const posed = posedPlane(plane, atFrame);
      const picture = held ? holdPicture(frame, pose, carrier, posed, depthSpx) : null;
      if (!picture) return restOf({ ...posed, depthSpx: depthOnCarrier(carrier, depthSpx) }, atFrame);
      // Its own way over the stage grows with it, so that it is seen to go as far as before.
      const growth = picture.transform.scaleX / posed.transform.scaleX;
      return restOf(withMovesScaled(picture, growth), atFrame);
    });
    // At once: what rides on it is held about where it is then.
    return held ? withSlidesHeld(next, sent, atFrame) : sent;
  }, scene);
  return stageFault(changed) ? scene : withSizeHeld(scene, changed, atFrame);
}

function carriersFirst(scene: Scene, ids: readonly PlaneId[]): PlaneId[] {
  const mounts = new Map(planesOf(scene).map(({ id, mount }) => [id, mount]));
  const ridersDown = (id: PlaneId): number => {
    const mount = mounts.get(id);
    return mount?.on === 'plane' ? 1 + ridersDown(mount.plane) : 0;
  };
  return ids.filter((id) => mounts.has(id)).sort((p, q) => ridersDown(p) - ridersDown(q));
}

/** The chosen planes that may move, near to far, ties as the list has them; with their depths from the datum. */
function inDepthOrder(scene: Scene, ids: ReadonlySet<PlaneId>): { plane: Plane; depthSpx: number }[] {
  const standings = standingsAt(scene, 1);
  return planesOf(scene)
    .filter((plane) => ids.has(plane.id) && !plane.locked)
    .map((plane) => ({ plane, depthSpx: standings.get(plane.id)!.depthSpx }))
    .sort((p, q) => p.depthSpx - q.depthSpx);
}

const sentTo = (scene: Scene, sent: readonly { plane: Plane; depthSpx: number }[], mode: DepthMode): Scene =>
  setPlanesDepth(scene, new Map(sent.map(({ plane, depthSpx }) => [plane.id, depthSpx])), mode);

/**
 * Whether a plane goes with the one behind it: a shadow or a lamp of the same group that is laid over it at its depth.
 * Elsewhere it would slide off what it falls on.
 */
const goesWith = (
  { plane, depthSpx }: { plane: Plane; depthSpx: number },
  behind: { plane: Plane; depthSpx: number } | undefined,
): boolean =>
  plane.mode !== undefined &&
  plane.group !== null &&
  behind !== undefined &&
  behind.plane.group === plane.group &&
  behind.depthSpx === depthSpx;

/**
 * Spreads planes in depth in the order that they stand in; locked ones and what rides on camera or planes stay, and
 * what is laid over by light goes with what it falls on.
 */
export function spreadPlanes(
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  spread: Spread,
  mode: DepthMode,
): Scene {
  const staged = inDepthOrder(scene, ids).filter(({ plane }) => plane.mount.on === 'stage');
  const isAlone = staged.map((one, i) => !goesWith(one, staged[i + 1]));
  const depths = spreadDepths(isAlone.filter(Boolean).length, spread, scene.homeDistanceSpx);
  let place = 0;
  const sent = staged.map(({ plane }, i) => {
    const depthSpx = depths[place] as number;
    if (isAlone[i]) place += 1;
    return { plane, depthSpx };
  });
  return sentTo(scene, sent, mode);
}

/** All distances from home by the same power: depths grow or shrink about the datum, `strength` 1 leaves them. */
export const scaleDepths = (
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  strength: number,
  mode: DepthMode,
): Scene =>
  sentTo(
    scene,
    inDepthOrder(scene, ids).map(({ plane, depthSpx }) => ({
      plane,
      depthSpx: scaledDepth(depthSpx, strength, scene.homeDistanceSpx),
    })),
    mode,
  );

/** All on one depth: that of the nearest of them. */
export function flattenDepths(scene: Scene, ids: ReadonlySet<PlaneId>, mode: DepthMode): Scene {
  const ordered = inDepthOrder(scene, ids);
  return sentTo(
    scene,
    ordered.map(({ plane }) => ({ plane, depthSpx: ordered[0]!.depthSpx })),
    mode,
  );
}

/** Near becomes far: the depths that there are, handed out in the opposite order. */
export function reverseDepths(scene: Scene, ids: ReadonlySet<PlaneId>, mode: DepthMode): Scene {
  const ordered = inDepthOrder(scene, ids);
  return sentTo(
    scene,
    ordered.map(({ plane }, i) => ({ plane, depthSpx: ordered[ordered.length - 1 - i]!.depthSpx })),
    mode,
  );
}
