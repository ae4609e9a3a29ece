import {
  type Affine,
  type Box,
  compose,
  invertAffine,
  type Point,
  rotation,
  scaling,
  translation,
} from '../../geometry/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { artToCarrier, transformOf } from '../../stage/index.ts';
import { posedPlane, restOf } from '../../staging/index.ts';
import { frameToCarrier, paintOnFrame, withoutRiders } from './place.ts';
import { withFreePlanes } from './with-planes.ts';

interface OnFrame {
  readonly id: PlaneId;
  readonly box: Box;
}

/** The bounds of the paint of planes on the frame at `frame`, output px: of those that are free and do not go with another. */
export function boxesOnFrame(scene: Scene, ids: ReadonlySet<PlaneId>, frame: number): OnFrame[] {
  const moving = withoutRiders(scene, ids);
  return planesOf(scene).flatMap((plane) => {
    const box = moving.has(plane.id) && !plane.locked ? paintOnFrame(scene, plane, frame) : null;
    return box ? [{ id: plane.id, box }] : [];
  });
}

/** The smallest box round all of `boxes`; null round none. */
export function boxRound(boxes: readonly Box[]): Box | null {
  if (boxes.length === 0) return null;
  return {
    x0: Math.min(...boxes.map((box) => box.x0)),
    y0: Math.min(...boxes.map((box) => box.y0)),
    x1: Math.max(...boxes.map((box) => box.x1)),
    y1: Math.max(...boxes.map((box) => box.y1)),
  };
}

/** Lays a map of the frame, output px, on what planes show at `frame`: their picture there is the one before, mapped. */
function mapPlanesOnFrame(scene: Scene, ids: ReadonlySet<PlaneId>, map: Affine, frame: number): Scene {
  return withFreePlanes(scene, withoutRiders(scene, ids), (plane) => {
    const back = frameToCarrier(scene, plane, frame);
    const onto = back && invertAffine(back);
    if (!onto) return plane;
    const posed = posedPlane(plane, frame);
    const mapped = compose(compose(compose(back, map), onto), artToCarrier(posed.transform));
    return restOf({ ...posed, transform: transformOf(mapped, posed.transform) }, frame);
  });
}

const about = (pivot: Point, map: Affine): Affine =>
  compose(compose(translation(pivot.x, pivot.y), map), translation(-pivot.x, -pivot.y));

/** Sizes planes together about a point of the frame (output px), as the camera at `frame` sees them. `ratio` is over 0. */
export const sizePlanesOnFrame = (
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  pivot: Point,
  ratio: number,
  frame: number,
): Scene => mapPlanesOnFrame(scene, ids, about(pivot, scaling(ratio, ratio)), frame);

/** Turns planes together about a point of the frame (output px), clockwise in degrees, as the camera at `frame` sees them. */
export const turnPlanesOnFrame = (
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  pivot: Point,
  deg: number,
  frame: number,
): Scene => mapPlanesOnFrame(scene, ids, about(pivot, rotation(deg)), frame);
