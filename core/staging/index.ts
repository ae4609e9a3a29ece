export {
  appearanceAt,
  irisForBlur,
  type Lens,
  lensAt,
  shownAppearance,
} from './appearance.ts';
export { cameraPoseAt, distanceToPlane, stageFrameOf, steadyPoseAt } from './camera-at.ts';
export {
  CAMERA_CHANNELS,
  CAMERA_LOOKS,
  type CameraChannel,
  type CameraLook,
  isCameraLook,
  LENS_CHANNELS,
  MOVE_CHANNELS,
  POSE_CHANNELS,
} from './camera-channels.ts';
export {
  allChannels,
  CHANNEL_KINDS,
  type ChannelId,
  type ChannelKind,
  type ChannelName,
  type ChannelRef,
  channelAt,
  channelId,
  channelRef,
  interpolationOf,
  isColour,
  keyedChannels,
  mayOvershoot,
  PLANE_CHANNELS,
  shownScale,
  shownValueAt,
  TRACK_AXES,
  trackOf,
} from './channels.ts';
export { crossingPx, depthToCross, type PointedAt, runBetweenSpots } from './crossing.ts';
export { fieldingBox } from './fielding-box.ts';
export { type PathOwner, pathPlaceAt, pathRefsOf, trackRefOf } from './path-owner.ts';
export { isMoving, movedAt, type PlaneMove, posedPlane, restOf, withMovesScaled } from './plane-at.ts';
export { seenBox } from './seen-box.ts';
export {
  carrierOf,
  mountFault,
  repeatsAcross,
  repeatsDown,
  ridesOnCamera,
  slideArtPx,
  stageFault,
  standingAt,
  standingsAt,
} from './standings.ts';
