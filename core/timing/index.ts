export { type Channel, channelValueAt, type Key, keyAt, speedProfile, speedsAtKey } from './channel.ts';
export {
  EASE_PRESET_NAMES,
  EASE_PRESETS,
  EASE_WAYS,
  type Ease,
  type EasePresetName,
  type EaseWay,
  easeOfStrength,
  easePresetOf,
  easeProgress,
  overshoots,
  strengthOf,
  withoutOvershoot,
} from './ease.ts';
export { type Interpolation, interpolate } from './interpolation.ts';
export {
  deleteKeys,
  inOrder,
  layKeys,
  mapValues,
  moveKeys,
  putKey,
  restAt,
  reverseKeys,
  rollKey,
  setEase,
  shiftChannel,
  splitAt,
  stretchKeys,
} from './key-edits.ts';
export type { Place } from './path.ts';
export { COMMON_RATES, frameAtRate, secondsAtFrame, secondsOfFrames } from './rate.ts';
export { reduceToKeys } from './reduce-keys.ts';
export { type PenSample, placesOfRide } from './ride.ts';
export { cyclePhase, runDistance } from './run.ts';
export { sampleChannel } from './sample-channel.ts';
export { smoothKeys } from './smooth-keys.ts';
export { SWAY_AXES, type Sway, type SwayAxis, smoothStep, swayAt } from './sway.ts';
export { canDrop, timecodeLabel } from './timecode.ts';
export {
  addBend,
  movePoint,
  removeBend,
  setCorner,
  type Track,
  type TrackPoint,
  trackKeys,
  trackLength,
  trackLengthAt,
  trackPlaceAt,
} from './track.ts';
export { putTrackKey, shiftTrack, trackAsChannel, trackFromChannel } from './track-keys.ts';
export { type Field, smoothWay } from './zoom-pan.ts';
