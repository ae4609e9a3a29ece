export {
  countFault,
  listWords,
  MOST_POSES,
  namesFault,
  rateWords,
  samplesFault,
  sizeFault,
  sizeWords,
} from './bounds.ts';
export { HANDOFF_FORMATS, HANDOFF_KINDS, type HandoffKind, STILL_KINDS, type StillKind } from './formats.ts';
export { frameContent, type Marked, type Picture } from './frame-content.ts';
export { firstNumber, framesWanted, type HandoffItem, handoffItems } from './items.ts';
export {
  checkPattern,
  FRAMES_PATTERN,
  fileStem,
  MOST_DIGITS,
  outputName,
  type PatternFault,
  PLANES_PATTERN,
} from './names.ts';
export {
  DEPTH_WHITE,
  depthFarSpx,
  depthNote,
  depthValue,
  HALF_ALPHA,
  hidingPlanes,
  MOTION_NOTE,
  MOTION_STEPS,
  MOTION_STILL,
  motionValue,
  type Pass,
  passOf,
} from './passes.ts';
export { type ChosenPlanes, planAsked, planOfPlane } from './plan-asked.ts';
export { spreadUnderClear } from './spread-colour.ts';
export {
  CHOSEN_SHOWN,
  DEPTH_FILES,
  type DepthFile,
  isNumberPass,
  isPlanePass,
  PASSES,
  type PassName,
} from './what-frames-show.ts';
export { toI420 } from './yuv.ts';
