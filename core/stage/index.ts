export {
  angleOfViewDeg,
  type CameraPose,
  distanceSpx,
  focalPx,
  gate36FocalMm,
  homePose,
  nearLimitSpx,
  type StageFrame,
  stageToFrame,
} from './camera.ts';
export { cameraAfterDrag } from './drag-camera.ts';
export { holdPicture } from './hold-picture.ts';
export {
  artToStage,
  depthAtSpeed,
  drawingOrder,
  MOUNTS,
  type Mount,
  type Placement,
  type PlaneTransform,
  placePlane,
  type StagedPlane,
  speedAtDepth,
} from './placement.ts';
export { remount } from './remount.ts';
