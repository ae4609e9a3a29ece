import { LRUCache } from 'lru-cache';
import { type ColourMatrix, type Paint, rampOf, throughAir, vignetteAt } from '../paint/index.ts';
import type { Haze, PlaneLook } from '../staging/frame/index.ts';

/** Darker corners, measured from the middle of the frame: `v = vignetteAt(strength, |p − centre| / halfDiagonal)`. */
export interface Vignette {
  readonly strength: number;
  /** Image px. */
  readonly centreX: number;
  readonly centreY: number;
  readonly halfDiagonalPx: number;
}

/** A change of each channel by itself, on straight sRGB values: the air before a plane, or what of a picture glows. */
export type Curve = ({ readonly kind: 'air' } & Haze) | { readonly kind: 'glow' };

/** What happens to the colours of one layer, in this order. */
export interface LayerLook {
  readonly matrix: ColourMatrix | null;
  readonly curve: Curve | null;
  readonly vignette: Vignette | null;
}

/** Null where nothing happens to them. */
export function layerLook({ matrix, air, filtered }: PlaneLook, vignette: Vignette | null): LayerLook | null {
  const dark = filtered ? vignette : null;
  const curve = air && ({ kind: 'air', ...air } as const);
  return matrix || curve || dark ? { matrix, curve, vignette: dark } : null;
}

const clamp = (value: number, most: number): number => Math.min(most, Math.max(0, value));

/** Changes a premultiplied colour (RGBA, any range) in place: matrix, then curve; not the vignette. */
export function applyLook(look: LayerLook, colour: Float64Array | Float32Array, at: number): void {
  const alpha = colour[at + 3] as number;
  if (alpha <= 0) return;
  const { matrix: m, curve } = look;
  const old = [colour[at] as number, colour[at + 1] as number, colour[at + 2] as number] as const;
  for (const c of [0, 1, 2] as const) {
    let value = m
      ? clamp(
          (m[c * 3] as number) * old[0] +
            (m[c * 3 + 1] as number) * old[1] +
            (m[c * 3 + 2] as number) * old[2],
          alpha,
        )
      : old[c];
    if (curve) value = curvedChannel(curve, c, clamp(value / alpha, 1)) * alpha;
    colour[at + c] = value;
  }
}

function curvedChannel(curve: Curve, channel: 0 | 1 | 2, value: number): number {
  // Light glows by its square: bright places do, dark ones do not.
  if (curve.kind === 'glow') return value * value;
  const { transmission, colour, gain } = curve;
  return clamp(gain[channel] * throughAir(value, transmission, colour[channel]), 1);
}

/** Share of the light that the vignette leaves at a pixel centre. */
export const vignetteAtPixel = (
  { strength, centreX, centreY, halfDiagonalPx }: Vignette,
  x: number,
  y: number,
): number => vignetteAt(strength, Math.hypot(x - centreX, y - centreY) / halfDiagonalPx);

/** Entries of a table of one channel: straight values of 15-bit lanes without their last three bits, and a spare. */
export const CURVE_LENGTH = 4096;
const FULL = 32_640;
const LAST_ENTRY = FULL / 8;

/** Tables last used, by what they stand for: most planes keep their distance, or share it with the next frame. */
const curves = new LRUCache<string, Uint16Array>({ max: 256 });

/** Red, green and blue after the curve, in lanes (0 to 32 640), for straight values i·8 of a lane. */
export function curveTables(curve: Curve): Uint16Array {
  const key = Object.values(curve).join(' ');
  const known = curves.get(key);
  if (known) return known;
  const made = new Uint16Array(3 * CURVE_LENGTH);
  for (const channel of [0, 1, 2] as const)
    for (let i = 0; i < CURVE_LENGTH; i++)
      made[channel * CURVE_LENGTH + i] = Math.round(
        FULL * curvedChannel(curve, channel, Math.min(1, i / LAST_ENTRY)),
      );
  curves.set(key, made);
  return made;
}

/** The ramp of a paint after the look: premultiplied RGBA, 0 to 255. */
export function lookedRamp(paint: Paint, look: LayerLook | null): Float32Array {
  const plain = rampOf(paint);
  if (!look || (!look.matrix && !look.curve)) return plain;
  const ramp = plain.slice();
  for (let at = 0; at < ramp.length; at += 4) applyLook(look, ramp, at);
  return ramp;
}
