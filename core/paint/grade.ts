import { z } from 'zod';
import type { Triple } from './oklab.ts';
import { colourSchema } from './paint.ts';

const gain = z.number().min(0).max(4);
/** As wide as the distances that are kept of an art reach (image/distance.ts). */
export const MOST_SOFT_EDGE_PX = 4000;

const share = z.number().min(0).max(1);

/** A plane's own look. Neutral: brightness 1, saturation 1, tint strength 0, no blur. */
export const gradeSchema = z.strictObject({
  brightness: gain,
  saturation: gain,
  tint: colourSchema,
  /** How far towards the painting seen through a glass of the tint. */
  tintStrength: share,
  /** Diameter, px of the output frame, of a disc that spreads as far as this Gaussian (σ is a quarter of it). */
  blurPx: z.number().min(0).max(1000),
  /** Over so many art px from its border inwards the plane comes in from nothing; without a word it is as painted. */
  softEdgePx: z.number().min(0).max(MOST_SOFT_EDGE_PX).optional(),
});
export type Grade = z.infer<typeof gradeSchema>;

/** A filter in front of the camera: over everything but what is mounted on the camera. */
export const filterSchema = z.strictObject({
  brightness: gain,
  tint: colourSchema,
  tintStrength: share,
  /** Light that spreads from bright places, laid over by screening. */
  glow: share,
  /** How much darker the corners of the frame are. */
  vignette: share,
});
export type CameraFilter = z.infer<typeof filterSchema>;

export const PLAIN_GRADE: Grade = {
  brightness: 1,
  saturation: 1,
  tint: '#ffffff',
  tintStrength: 0,
  blurPx: 0,
};
export const PLAIN_FILTER: CameraFilter = {
  brightness: 1,
  tint: '#ffffff',
  tintStrength: 0,
  glow: 0,
  vignette: 0,
};

/** Three rows of three: new red, green and blue from the old ones, sRGB-encoded, premultiplied or not. */
export type ColourMatrix = readonly [number, number, number, number, number, number, number, number, number];
const UNCHANGED: ColourMatrix = [1, 0, 0, 0, 1, 0, 0, 0, 1];

/** The product that does `first`, then `then`. */
function afterMatrix(then: ColourMatrix, first: ColourMatrix): ColourMatrix {
  const at = (row: number, column: number) =>
    [0, 1, 2].reduce((sum, k) => sum + (then[row * 3 + k] as number) * (first[k * 3 + column] as number), 0);
  return [at(0, 0), at(0, 1), at(0, 2), at(1, 0), at(1, 1), at(1, 2), at(2, 0), at(2, 1), at(2, 2)];
}

/**
 * Saturation, then brightness (the matrices of W3C Filter Effects Module Level 1, saturate() and brightness(), on
 * sRGB-encoded values), then the tint as a glass: each channel times the tint's (sRGB in [0, 1]). What leaves [0, alpha] is clamped.
 * Null where nothing changes.
 */
export function gradeMatrix({
  brightness,
  saturation: s,
  tint,
  tintStrength,
}: Pick<Grade, 'brightness' | 'saturation' | 'tintStrength'> & {
  readonly tint: Triple;
}): ColourMatrix | null {
  const [r, g, b] = tint.map((v) => brightness * (1 + tintStrength * (v - 1))) as [number, number, number];
  const saturate: ColourMatrix = [
    0.213 + 0.787 * s,
    0.715 - 0.715 * s,
    0.072 - 0.072 * s,
    0.213 - 0.213 * s,
    0.715 + 0.285 * s,
    0.072 - 0.072 * s,
    0.213 - 0.213 * s,
    0.715 - 0.715 * s,
    0.072 + 0.928 * s,
  ];
  const matrix = afterMatrix([r, 0, 0, 0, g, 0, 0, 0, b], s === 1 ? UNCHANGED : saturate);
  return matrix.every((value, i) => value === UNCHANGED[i]) ? null : matrix;
}

/** Share of the half diagonal at which a vignette begins. */
const VIGNETTE_FROM = 0.35;

/** What a vignette leaves of the light at `reach`, a share of the frame's half diagonal: level at both ends. */
export function vignetteAt(strength: number, reach: number): number {
  const t = Math.min(1, Math.max(0, (reach - VIGNETTE_FROM) / (1 - VIGNETTE_FROM)));
  return 1 - strength * t * t * (3 - 2 * t);
}
