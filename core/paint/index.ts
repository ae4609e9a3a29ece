export { type Air, airSchema, CLEAR_VISIBILITY_SPX, throughAir, transmissionAt } from './air.ts';
export { BLEND_FORMULAS, BLEND_MODES, type BlendMode, blendOver } from './blend.ts';
export { defocusPx } from './defocus.ts';
export {
  type CameraFilter,
  type ColourMatrix,
  filterSchema,
  type Grade,
  gradeMatrix,
  gradeSchema,
  MOST_SOFT_EDGE_PX,
  PLAIN_FILTER,
  PLAIN_GRADE,
  vignetteAt,
} from './grade.ts';
export { boxToGradient, colourAt, rampOf, srgbOfHex } from './gradient.ts';
export {
  beforeAir,
  type MatchingGrade,
  matchingGrade,
  STARTING_LOOKS,
  type StartingLook,
} from './match.ts';
export { oklabOfSrgb, srgbOfOklab, type Triple } from './oklab.ts';
export {
  colourDistance,
  hexOfPacked,
  hexOfSrgb,
  mixPacked,
  type PackedColour,
  packColour,
  packHex,
  shiftPacked,
  unpackColour,
} from './packed-colour.ts';
export {
  colourSchema,
  type Gradient,
  type GradientStop,
  MIX_SPACES,
  type Paint,
  paintSchema,
} from './paint.ts';
