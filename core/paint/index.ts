export { type Air, airSchema, throughAir, transmissionAt } from './air.ts';
export { defocusPx } from './defocus.ts';
export {
  type CameraFilter,
  type ColourMatrix,
  filterSchema,
  type Grade,
  gradeMatrix,
  gradeSchema,
  PLAIN_FILTER,
  PLAIN_GRADE,
  vignetteAt,
} from './grade.ts';
export { boxToGradient, colourAt, rampOf, srgbOfHex } from './gradient.ts';
export type { Triple } from './oklab.ts';
export { type Gradient, type GradientStop, MIX_SPACES, type Paint, paintSchema } from './paint.ts';
