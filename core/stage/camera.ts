import { type Affine, compose, rotation, scaling, translation } from '../geometry/index.ts';

/** What of the stage never moves: the output frame and where home is. */
export interface StageFrame {
  readonly widthPx: number;
  readonly heightPx: number;
  /** Distance from the home camera to the datum, stage px. */
  readonly homeDistanceSpx: number;
}

/** A camera at one instant. Home is (0, 0, −D), zoom 1, roll 0. The axis is always perpendicular to the planes. */
export interface CameraPose {
  readonly xSpx: number;
  readonly ySpx: number;
  readonly zSpx: number;
  readonly zoom: number;
  /** Degrees, clockwise positive; the picture turns the other way. */
  readonly rollDeg: number;
}

export const homePose = (frame: StageFrame): CameraPose => ({
  xSpx: 0,
  ySpx: 0,
  zSpx: -frame.homeDistanceSpx,
  zoom: 1,
  rollDeg: 0,
});

/** Planes at or nearer than this distance have been passed by the camera: D/100. */
export const nearLimitSpx = (frame: StageFrame): number => frame.homeDistanceSpx / 100;

/** Distance along the axis from the camera to a plane at `depthSpx`; negative behind the camera. */
export const distanceSpx = (pose: CameraPose, depthSpx: number): number => depthSpx - pose.zSpx;

/** Focal length in output px: D·q. */
export const focalPx = (frame: StageFrame, pose: CameraPose): number => frame.homeDistanceSpx * pose.zoom;

/** Horizontal angle of view in degrees: 2·atan(W / 2f). */
export const angleOfViewDeg = (frame: StageFrame, pose: CameraPose): number =>
  (2 * Math.atan(frame.widthPx / (2 * focalPx(frame, pose))) * 180) / Math.PI;

/** Equivalent focal length on a gate 36 mm wide: 36·f/W, in mm. */
export const gate36FocalMm = (frame: StageFrame, pose: CameraPose): number =>
  (36 * focalPx(frame, pose)) / frame.widthPx;

/**
 * Stage to output px for everything at `distance` from the camera:
 * [W/2, H/2] + R(−roll)·((P − C)·f/d). `distance` must be positive.
 */
export function stageToFrame(frame: StageFrame, pose: CameraPose, distance: number): Affine {
  const perPx = focalPx(frame, pose) / distance;
  const aboutAxis = compose(scaling(perPx), translation(-pose.xSpx, -pose.ySpx));
  return compose(
    translation(frame.widthPx / 2, frame.heightPx / 2),
    compose(rotation(-pose.rollDeg), aboutAxis),
  );
}
