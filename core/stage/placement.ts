import { type Affine, compose, rotation, scaling, translation } from '../geometry/index.ts';
import {
  type CameraPose,
  distanceSpx,
  homePose,
  nearLimitSpx,
  type StageFrame,
  stageToFrame,
} from './camera.ts';

export const MOUNTS = ['stage', 'camera'] as const;
/** What a plane rides on. On the camera it keeps its place and size on screen through any move. */
export type Mount = (typeof MOUNTS)[number];

/** Where a plane's art stands on its plane: P = pos + R(rot)·diag(sx, sy)·(a − anchor). */
export interface PlaneTransform {
  readonly xSpx: number;
  readonly ySpx: number;
  readonly scaleX: number;
  readonly scaleY: number;
  readonly rotationDeg: number;
  readonly anchorXArtPx: number;
  readonly anchorYArtPx: number;
}

export interface StagedPlane {
  readonly mount: Mount;
  readonly depthSpx: number;
  readonly transform: PlaneTransform;
}

export interface Placement {
  /** Art px to output px; null when the camera has passed the plane. */
  readonly artToFrame: Affine | null;
  /** From the camera; for camera-mounted planes as at home, which is where they always are. */
  readonly distanceSpx: number;
  /** Slide on screen for a pan, relative to the datum at home; 0 on the camera. */
  readonly speed: number;
}

export function artToStage(t: PlaneTransform): Affine {
  const turned = compose(rotation(t.rotationDeg), scaling(t.scaleX, t.scaleY));
  return compose(translation(t.xSpx, t.ySpx), compose(turned, translation(-t.anchorXArtPx, -t.anchorYArtPx)));
}

/** Where the art of `plane` lands on the frame for this camera. */
export function placePlane(frame: StageFrame, pose: CameraPose, plane: StagedPlane): Placement {
  const from = plane.mount === 'camera' ? homePose(frame) : pose;
  const distance = distanceSpx(from, plane.depthSpx);
  const passed = distance <= nearLimitSpx(frame);
  return {
    artToFrame: passed ? null : compose(stageToFrame(frame, from, distance), artToStage(plane.transform)),
    distanceSpx: distance,
    speed: plane.mount === 'camera' ? 0 : speedAtDepth(plane.depthSpx, frame.homeDistanceSpx),
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
