export { type Air, airSchema, throughAir, transmissionAt } from './air.ts';
export { defocusPx } from './defocus.ts';
export {
  type CameraFilter,
  type ColourMatrix,
  filterSchema,
  type Grade,
  gradeMatrix,
  gradeSchema,
  joinedMatrix,
  PLAIN_FILTER,
  PLAIN_GRADE,
  vignetteAt,
} from './grade.ts';
export { boxToGradient, colourAt, RAMP_LENGTH, rampOf, srgbOfHex } from './gradient.ts';
export { linearOfSrgb, oklabOfSrgb, srgbOfLinear, srgbOfOklab, type Triple } from './oklab.ts';
export {
  colourSchema,
  type Gradient,
  type GradientStop,
  MIX_SPACES,
  type MixSpace,
  type Paint,
  paintSchema,
} from './paint.ts';
