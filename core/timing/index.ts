export { BEYONDS, type Beyond, withinKeys } from './beyond.ts';
export {
  type Channel,
  channelValueAt,
  type Key,
  keyAt,
  spanIndexAt,
  speedProfile,
  speedsAtKey,
} from './channel.ts';
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
  splitEase,
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
export { COMMON_RATES, frameAtRate, secondsAtFrame, secondsOfFrames } from './rate.ts';
export { reduceToKeys } from './reduce-keys.ts';
export { sampleChannel } from './sample-channel.ts';
export { smoothKeys } from './smooth-keys.ts';
export { canDrop, timecodeLabel } from './timecode.ts';
