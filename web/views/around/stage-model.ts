import { applyAffine, type Point } from '@keen-ridge/core/geometry';
import type { Plane, PlaneId, Scene } from '@keen-ridge/core/scene';
import { planesOf } from '@keen-ridge/core/scene/records';
import { type CameraPose, frameOnPlane } from '@keen-ridge/core/stage';
import { cameraPoseAt, stageFrameOf, standingsAt } from '@keen-ridge/core/staging';
import { factsOf, shownAt } from '@keen-ridge/core/staging/content';

/** A point of the stage as a 3D library has it: Y up, and Z towards the viewer. */
export type Point3 = readonly [number, number, number];

export interface Card {
  readonly id: PlaneId;
  readonly plane: Plane;
  /** Corners of the paint, from its upper left clockwise. */
  readonly corners: readonly Point3[];
  /** Where they lie in the art, 0 to 1, Y up. */
  readonly uvs: readonly (readonly [number, number])[];
  /** The image that shows, or null where it is drawn from shapes. */
  readonly artId: string | null;
}

const at3 = ({ x, y }: Point, depthSpx: number): Point3 => [x, -y, -depthSpx];

/** Every plane that is not hidden as the painted card that it is, where it stands on the stage. */
export function cardsOf(scene: Scene, frame: number, pose = cameraPoseAt(scene, frame)): Card[] {
  const standings = standingsAt(scene, frame);
  const home = -scene.homeDistanceSpx;
  return planesOf(scene).flatMap((plane): Card[] => {
    const { painted, widthPx, heightPx } = factsOf(plane.content);
    const standing = standings.get(plane.id);
    if (plane.hidden || !painted || !standing) return [];
    const { x0, y0, x1, y1 } = painted;
    const points = [
      { x: x0, y: y0 },
      { x: x1, y: y0 },
      { x: x1, y: y1 },
      { x: x0, y: y1 },
    ];
    // What rides on the camera goes where it goes.
    const rides = standing.root === 'camera';
    const corners = points.map((point) => {
      const { x, y } = applyAffine(standing.artToStage, point);
      return rides
        ? at3({ x: x + pose.xSpx, y: y + pose.ySpx }, standing.depthSpx + pose.zSpx - home)
        : at3({ x, y }, standing.depthSpx);
    });
    const shown = shownAt(plane.content, frame, scene.rate);
    return [
      {
        id: plane.id,
        plane,
        corners,
        uvs: points.map(({ x, y }) => [x / widthPx, 1 - y / heightPx] as const),
        artId: shown.kind === 'image' ? shown.art.id : null,
      },
    ];
  });
}

/** The cone of view: the camera, and the corners of its frame on the datum and on the farthest plane. */
export interface Cone {
  readonly apex: Point3;
  readonly onDatum: readonly Point3[] | null;
  readonly farthest: readonly Point3[];
}

export function coneOf(scene: Scene, frame: number, pose: CameraPose = cameraPoseAt(scene, frame)): Cone {
  const stage = stageFrameOf(scene);
  const depths = [...standingsAt(scene, frame).values()].map(({ depthSpx }) => depthSpx);
  const far = Math.max(scene.homeDistanceSpx * 0.2, ...depths);
  const cornersAt = (depthSpx: number) =>
    frameOnPlane(stage, pose, depthSpx)?.map((point) => at3(point, depthSpx)) ?? null;
  return {
    apex: [pose.xSpx, -pose.ySpx, -pose.zSpx],
    onDatum: cornersAt(0),
    farthest: cornersAt(far) ?? [],
  };
}
