import { type Affine, compose, invertAffine, scaling } from '../../geometry/index.ts';
import type { Plane, PlaneId, Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { homePose, nearLimitSpx } from '../../stage/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { cameraPoseAt, stageFrameOf, standingsAt } from '../../staging/index.ts';
import { flippedY, isSkewed, type NodePoses, type Planar, type Pose, posesOf } from './planar.ts';

/** Metres of glTF for a stage px: a stage of 1920 px is 19.2 m away. */
export const METRES_PER_SPX = 0.01;

/** What a node hangs on: the scene, the camera or another plane. */
export type Parent = 'scene' | 'camera' | PlaneId;

/** A plane over the whole shot: its nodes' poses and opacity on every frame. */
export interface PlaneTrack {
  readonly plane: Plane;
  readonly parent: Parent;
  /** Whether it needs a second node. */
  readonly skewed: boolean;
  readonly poses: readonly NodePoses[];
  readonly opacities: readonly number[];
  /** Null on frames on which the camera has passed it. */
  readonly artToFrame: readonly (Affine | null)[];
}

export interface ShotTracks {
  readonly camera: readonly Pose[];
  /** Vertical angle of view on every frame, radians. */
  readonly yfov: readonly number[];
  readonly aspectRatio: number;
  readonly znear: number;
  readonly planes: readonly PlaneTrack[];
}

/** Every frame of a shot as a scene graph: what rides on a plane is its child, what rides on the camera the camera's. */
export function shotTracks(scene: Scene): ShotTracks {
  const stage = stageFrameOf(scene);
  const frames = Array.from({ length: scene.lengthFrames }, (_, i) => i + 1);
  const camera = frames.map((frame) => cameraPoseAt(scene, frame));
  const homeZ = homePose(stage).zSpx;
  const worlds = new Map<PlaneId, Planar[]>(planesOf(scene).map(({ id }) => [id, []]));
  frames.forEach((frame, i) => {
    const standings = standingsAt(scene, frame);
    for (const { id } of planesOf(scene)) {
      const { root, artToStage, depthSpx } = standings.get(id)!;
      // What rides on the camera keeps its size on screen: as the lens grows longer it grows smaller.
      const map = root === 'camera' ? compose(scaling(1 / camera[i]!.zoom), artToStage) : artToStage;
      const z = root === 'camera' ? homeZ - depthSpx : -depthSpx;
      worlds.get(id)!.push({ map: inMetres(flippedY(map)), z: z * METRES_PER_SPX });
    }
  });
  const plans = frames.map(
    (frame) => new Map(framePlan(scene, frame).planes.map((plane) => [plane.planeId, plane])),
  );
  const planes = planesOf(scene).map((plane): PlaneTrack => {
    const parent = parentOf(plane);
    const carrier = plane.mount.on === 'plane' ? worlds.get(plane.mount.plane) : undefined;
    const locals = worlds.get(plane.id)!.map((world, i) => (carrier ? within(carrier[i]!, world) : world));
    const skewed = locals.some(({ map }) => isSkewed(map));
    return {
      plane,
      parent,
      skewed,
      poses: locals.map((local) => posesOf(local, skewed)),
      opacities: plans.map((plan) => plan.get(plane.id)?.opacity ?? 0),
      artToFrame: plans.map((plan) => plan.get(plane.id)?.artToFrame ?? null),
    };
  });
  return {
    camera: camera.map(({ xSpx, ySpx, zSpx, rollDeg }) => {
      // Clockwise on screen is against glTF's sense about +Z.
      const half = (-rollDeg * Math.PI) / 360;
      return {
        translation: [xSpx * METRES_PER_SPX, -ySpx * METRES_PER_SPX, -zSpx * METRES_PER_SPX],
        rotation: [0, 0, Math.sin(half), Math.cos(half)],
        scale: [1, 1, 1],
      };
    }),
    yfov: camera.map(({ zoom }) => 2 * Math.atan(stage.heightPx / 2 / (stage.homeDistanceSpx * zoom))),
    aspectRatio: stage.widthPx / stage.heightPx,
    znear: nearLimitSpx(stage) * METRES_PER_SPX,
    planes,
  };
}

/** The camera's node has no place of its own in the map of what rides on it: that counts from home. */
const parentOf = ({ mount }: Plane): Parent =>
  mount.on === 'plane' ? mount.plane : mount.on === 'camera' ? 'camera' : 'scene';

const inMetres = (map: Affine): Affine => compose(scaling(METRES_PER_SPX), map);

/** A place as it is seen from another one. A map that has no inverse has nothing on it to be seen. */
function within(carrier: Planar, world: Planar): Planar {
  const back = invertAffine(carrier.map);
  return { map: back ? compose(back, world.map) : world.map, z: world.z - carrier.z };
}
