import { applyAffine, invertAffine, type Point } from '../geometry/index.ts';
import { type CameraPose, distanceSpx, nearLimitSpx, type StageFrame, stageToFrame } from './camera.ts';

/**
 * What the camera sees of the plane at `depthSpx`: the corners of the frame on it, stage px, from the upper left of
 * the picture clockwise. Null when the plane is not in front.
 */
export function frameOnPlane(frame: StageFrame, pose: CameraPose, depthSpx: number): Point[] | null {
  const distance = distanceSpx(pose, depthSpx);
  const back = distance > nearLimitSpx(frame) ? invertAffine(stageToFrame(frame, pose, distance)) : null;
  const { widthPx: w, heightPx: h } = frame;
  return (
    back &&
    [
      { x: 0, y: 0 },
      { x: w, y: 0 },
      { x: w, y: h },
      { x: 0, y: h },
    ].map((corner) => applyAffine(back, corner))
  );
}
