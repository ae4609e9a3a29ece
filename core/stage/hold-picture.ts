import { applyAffine, invertAffine } from '../geometry/index.ts';
import { type CameraPose, distanceSpx, nearLimitSpx, type StageFrame } from './camera.ts';
import { poseFor } from './placement.ts';
import { type CarriedPlane, type Carrier, depthOnCarrier } from './standing.ts';

/**
 * The plane moved to `depthSpx` (from the datum) and re-scaled about the camera's axis so that the picture through
 * `pose` stays as it is: k = d′/d, s′ = k·s, pos′ = C + k(pos − C), with the axis C as its carrier sees it. What rides
 * on the plane keeps its picture too. Null when either distance is not in front of the camera: there is no picture.
 */
export function holdPicture<P extends CarriedPlane>(
  frame: StageFrame,
  pose: CameraPose,
  carrier: Carrier,
  plane: P,
  depthSpx: number,
): P | null {
  const from = poseFor(frame, pose, carrier.root);
  const before = distanceSpx(from, carrier.depthSpx + carrier.depthScale * plane.depthSpx);
  const after = distanceSpx(from, depthSpx);
  const back = invertAffine(carrier.toStage);
  if (before <= nearLimitSpx(frame) || after <= nearLimitSpx(frame) || !back) return null;
  const k = after / before;
  const axis = applyAffine(back, { x: from.xSpx, y: from.ySpx });
  const t = plane.transform;
  return {
    ...plane,
    depthSpx: depthOnCarrier(carrier, depthSpx),
    transform: {
      ...t,
      xSpx: axis.x + k * (t.xSpx - axis.x),
      ySpx: axis.y + k * (t.ySpx - axis.y),
      scaleX: k * t.scaleX,
      scaleY: k * t.scaleY,
    },
  };
}
