export {
  type Channel,
  channelValueAt,
  type Interpolation,
  type Key,
  keyAt,
  speedProfile,
} from './channel.ts';
export {
  EASE_PRESET_NAMES,
  EASE_PRESETS,
  type Ease,
  type EasePresetName,
  easePresetOf,
  easeProgress,
} from './ease.ts';
export { deleteKeys, moveKeys, putKey, setEase, shiftChannel } from './key-edits.ts';
export { COMMON_RATES, framesOfSeconds, secondsAtFrame, secondsOfFrames } from './rate.ts';
export { cyclePhase, runDistance } from './run.ts';
