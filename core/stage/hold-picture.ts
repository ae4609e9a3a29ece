import { type CameraPose, distanceSpx, homePose, nearLimitSpx, type StageFrame } from './camera.ts';
import type { StagedPlane } from './placement.ts';

/**
 * The plane moved to `depthSpx` and re-scaled about the camera's axis so that the picture through `pose` stays as it
 * is: k = d′/d, s′ = k·s, pos′ = C + k(pos − C). Null when either distance is not in front of the camera: there is
 * no picture to hold.
 */
export function holdPicture<P extends StagedPlane>(
  frame: StageFrame,
  pose: CameraPose,
  plane: P,
  depthSpx: number,
): P | null {
  const from = plane.mount === 'camera' ? homePose(frame) : pose;
  const before = distanceSpx(from, plane.depthSpx);
  const after = distanceSpx(from, depthSpx);
  if (before <= nearLimitSpx(frame) || after <= nearLimitSpx(frame)) return null;
  const k = after / before;
  const t = plane.transform;
  return {
    ...plane,
    depthSpx,
    transform: {
      ...t,
      xSpx: from.xSpx + k * (t.xSpx - from.xSpx),
      ySpx: from.ySpx + k * (t.ySpx - from.ySpx),
      scaleX: k * t.scaleX,
      scaleY: k * t.scaleY,
    },
  };
}
