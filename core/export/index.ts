export {
  countFault,
  type ListFault,
  listWords,
  MOST_PICTURES,
  namesFault,
  picturesWanted,
  type SizeFault,
  sizeFault,
  sizeWords,
} from './bounds.ts';
export {
  HANDOFF_FORMATS,
  HANDOFF_KINDS,
  type HandoffFormat,
  type HandoffKind,
  SHEET_PICTURES,
  STILL_KINDS,
  type StillKind,
} from './formats.ts';
export { frameContent, type Picture, planOfPlane } from './frame-content.ts';
export { firstNumber, framesWanted, type HandoffItem, handoffItems, type Wanted } from './items.ts';
export {
  checkPattern,
  FRAMES_PATTERN,
  fileStem,
  MOST_DIGITS,
  NAME_PARTS,
  type PatternFault,
  PLANES_PATTERN,
  patternName,
} from './names.ts';
export { type Planar420, toI420 } from './yuv.ts';
