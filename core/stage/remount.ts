import { applyAffine, compose, invertAffine } from '../geometry/index.ts';
import {
  type CameraPose,
  distanceSpx,
  homePose,
  nearLimitSpx,
  type StageFrame,
  stageToFrame,
} from './camera.ts';
import type { Mount, StagedPlane } from './placement.ts';

/**
 * The plane on another mount, placed so that the picture through `pose` does not change. Null when the plane is not
 * in front of the camera.
 */
export function remount<P extends StagedPlane>(
  frame: StageFrame,
  pose: CameraPose,
  plane: P,
  mount: Mount,
): P | null {
  if (plane.mount === mount) return plane;
  const poseOf = (m: Mount) => (m === 'camera' ? homePose(frame) : pose);
  const [from, to] = [poseOf(plane.mount), poseOf(mount)];
  const [before, after] = [distanceSpx(from, plane.depthSpx), distanceSpx(to, plane.depthSpx)];
  if (before <= nearLimitSpx(frame) || after <= nearLimitSpx(frame)) return null;
  const back = invertAffine(stageToFrame(frame, to, after));
  if (!back) return null;
  const map = compose(back, stageToFrame(frame, from, before));
  const scale = Math.hypot(map.a, map.b);
  const position = applyAffine(map, { x: plane.transform.xSpx, y: plane.transform.ySpx });
  return {
    ...plane,
    mount,
    transform: {
      ...plane.transform,
      xSpx: position.x,
      ySpx: position.y,
      scaleX: plane.transform.scaleX * scale,
      scaleY: plane.transform.scaleY * scale,
      rotationDeg: plane.transform.rotationDeg + (Math.atan2(map.b, map.a) * 180) / Math.PI,
    },
  };
}
