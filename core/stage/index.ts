export {
  type CameraPose,
  distanceSpx,
  focalPx,
  homePose,
  nearLimitSpx,
  type StageFrame,
  stageToFrame,
} from './camera.ts';
export { depthForSlide } from './depth-for-slide.ts';
export { cameraAfterDrag } from './drag-camera.ts';
export { frameOnPlane } from './frame-on-plane.ts';
export { type HandleScale, scaledByHandle, turnedByHandle } from './handles.ts';
export { holdPicture } from './hold-picture.ts';
export { depthAtSpeed, drawingOrder, placePlane, poseFor, speedAtDepth } from './placement.ts';
export { remount, transformOf } from './remount.ts';
export { ROCK_WAYS, type Rock, type RockWay, rockedPose } from './rock.ts';
export { SPREAD_STEPS, type Spread, type SpreadStep, scaledDepth, spreadDepths } from './spread.ts';
export {
  artToCarrier,
  type Carrier,
  carrierFor,
  depthOnCarrier,
  ON_CAMERA,
  ON_STAGE,
  type PlaneTransform,
  type Root,
  type Standing,
  standPlane,
} from './standing.ts';
