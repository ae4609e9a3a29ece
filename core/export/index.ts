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
  DEPTH_FILES,
  DEPTH_WHITE,
  type DepthFile,
  depthFarSpx,
  depthNote,
  depthValue,
  HALF_ALPHA,
  hidingPlanes,
  isNumberPass,
  isPlanePass,
  MOTION_NOTE,
  MOTION_STEPS,
  MOTION_STILL,
  motionValue,
  PASSES,
  type Pass,
  type PassName,
  passOf,
} from './passes.ts';
export { CHOSEN_SHOWN, type ChosenPlanes, planAsked, planOfPlane } from './plan-asked.ts';
export { spreadUnderClear } from './spread-colour.ts';
export { toI420 } from './yuv.ts';
