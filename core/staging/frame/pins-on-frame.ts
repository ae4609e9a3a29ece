import { applyAffine, type Point } from '../../geometry/index.ts';
import type { Plane, Scene } from '../../scene/index.ts';
import { type ListedPin, pinsOf, planeOf } from '../../scene/records/index.ts';
import type { FramePlan } from './frame-plan.ts';

export interface PinOnFrame {
  readonly plane: Plane;
  readonly pin: ListedPin;
  /** Output px. */
  readonly at: Point;
}

/** Where the pins of a scene are on a frame; those of planes that the camera has passed are nowhere. */
export const pinsOnFrame = (scene: Pick<Scene, 'planes'>, plan: FramePlan): PinOnFrame[] =>
  plan.planes.flatMap(({ planeId, artToFrame }) => {
    const plane = planeOf(scene, planeId);
    if (!plane || !artToFrame) return [];
    return pinsOf(plane).map((pin) => ({
      plane,
      pin,
      at: applyAffine(artToFrame, { x: pin.xArtPx, y: pin.yArtPx }),
    }));
  });
