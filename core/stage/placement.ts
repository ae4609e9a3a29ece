import { type Affine, compose } from '../geometry/index.ts';
import {
  type CameraPose,
  distanceSpx,
  homePose,
  nearLimitSpx,
  type StageFrame,
  stageToFrame,
} from './camera.ts';
import type { Root, Standing } from './standing.ts';

export interface Placement {
  /** Art px to output px; null when the camera has passed the plane. */
  readonly artToFrame: Affine | null;
  /** From the camera; for camera-mounted planes as at home, which is where they always are. */
  readonly distanceSpx: number;
  /** Slide on screen for a pan, relative to the datum at home; 0 on the camera. */
  readonly speed: number;
}

/** The camera as what rides on `root` sees it: always at home for what rides on the camera. */
export const poseFor = (frame: StageFrame, pose: CameraPose, root: Root): CameraPose =>
  root === 'camera' ? homePose(frame) : pose;

/** Where the art of a plane lands on the frame for this camera. */
export function placePlane(
  frame: StageFrame,
  pose: CameraPose,
  { root, depthSpx, artToStage }: Pick<Standing, 'root' | 'depthSpx' | 'artToStage'>,
): Placement {
  const from = poseFor(frame, pose, root);
  const distance = distanceSpx(from, depthSpx);
  const passed = distance <= nearLimitSpx(frame);
  return {
    artToFrame: passed ? null : compose(stageToFrame(frame, from, distance), artToStage),
    distanceSpx: distance,
    speed: root === 'camera' ? 0 : speedAtDepth(depthSpx, frame.homeDistanceSpx),
  };
}

/** r = D/(D + z): 1 on the datum, under 1 behind it. `depthSpx` > −D. */
export const speedAtDepth = (depthSpx: number, homeDistanceSpx: number): number =>
  homeDistanceSpx / (homeDistanceSpx + depthSpx);

/** z = D(1/r − 1). `speed` > 0; a plane that must not slide at all belongs on the camera. */
export const depthAtSpeed = (speed: number, homeDistanceSpx: number): number =>
  homeDistanceSpx * (1 / speed - 1);

/**
 * Indices in drawing order: by distance, far to near. The list runs from near to far as the Stand shows it,
 * so at the same distance the later in the list is drawn first and the first in the list ends on top.
 */
export function drawingOrder(distancesSpx: readonly number[]): number[] {
  return distancesSpx
    .map((_, index) => index)
    .sort((p, q) => (distancesSpx[q] as number) - (distancesSpx[p] as number) || q - p);
}
