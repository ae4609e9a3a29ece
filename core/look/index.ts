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
