import { applyAffine, type Point, rotation } from '../geometry/index.ts';
import { type CameraPose, distanceSpx, focalPx, type StageFrame } from './camera.ts';

/** Where the camera must stand so that the datum follows a drag of the picture by `byPx` output px. Null behind it. */
export function cameraAfterDrag(frame: StageFrame, pose: CameraPose, byPx: Point): Point | null {
  const distance = distanceSpx(pose, 0);
  if (distance <= 0) return null;
  const onStage = applyAffine(rotation(pose.rollDeg), byPx);
  const spxPerPx = distance / focalPx(frame, pose);
  return { x: pose.xSpx - onStage.x * spxPerPx, y: pose.ySpx - onStage.y * spxPerPx };
}
