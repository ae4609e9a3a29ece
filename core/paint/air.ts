import { z } from 'zod';
import { linearOfSrgb, srgbOfLinear } from './oklab.ts';
import { colourSchema } from './paint.ts';

/** Air that is as clear as this is none, spx. */
export const CLEAR_VISIBILITY_SPX = 1e9;

/** Aerial perspective: haze by distance. */
export const airSchema = z.strictObject({
  colour: colourSchema,
  /** How far past the datum a dark plane keeps 2 % of its contrast, spx. */
  visibilitySpx: z.number().min(1).max(CLEAR_VISIBILITY_SPX),
});
export type Air = z.infer<typeof airSchema>;

/** −ln 0.02: Koschmieder's law at 2 % contrast (WMO-No. 8 takes 5 %: 2.996). */
const EXTINCTION = 3.912;

/**
 * Share of a plane's own light that comes through the air, T = exp(−β·max(0, d − D)) with β = 3.912/V.
 * 1 on the datum and nearer.
 */
export const transmissionAt = (
  { visibilitySpx }: Pick<Air, 'visibilitySpx'>,
  distanceSpx: number,
  homeDistanceSpx: number,
): number => Math.exp((-EXTINCTION / visibilitySpx) * Math.max(0, distanceSpx - homeDistanceSpx));

/** One channel, sRGB in [0, 1], seen through the air: mixed in linear light, c·T + air·(1 − T). */
export const throughAir = (value: number, transmission: number, air: number): number =>
  srgbOfLinear(linearOfSrgb(value) * transmission + linearOfSrgb(air) * (1 - transmission));
