/**
 * How a plane is laid over what is behind it: as paint (source-over), by the separable modes of W3C Compositing and
 * Blending Level 1, section 10.1, or added (plus-lighter, section 9.1.14).
 */
export const BLEND_MODES = [
  'paint',
  'multiply',
  'screen',
  'overlay',
  'darken',
  'lighten',
  'color-dodge',
  'color-burn',
  'hard-light',
  'soft-light',
  'difference',
  'exclusion',
  'plus-lighter',
] as const;
export type BlendMode = (typeof BLEND_MODES)[number];

/** B(cb, cs) of each separable mode, straight values in [0, 1]: backdrop, then source. */
export const BLEND_FORMULAS: Readonly<
  Record<Exclude<BlendMode, 'plus-lighter'>, (backdrop: number, source: number) => number>
> = {
  paint: (_, s) => s,
  multiply: (b, s) => b * s,
  screen: (b, s) => b + s - b * s,
  overlay: (b, s) => hardLight(s, b),
  darken: Math.min,
  lighten: Math.max,
  'color-dodge': (b, s) => (b === 0 ? 0 : s >= 1 ? 1 : Math.min(1, b / (1 - s))),
  'color-burn': (b, s) => (b >= 1 ? 1 : s <= 0 ? 0 : 1 - Math.min(1, (1 - b) / s)),
  'hard-light': (b, s) => hardLight(b, s),
  'soft-light': softLight,
  difference: (b, s) => Math.abs(b - s),
  exclusion: (b, s) => b + s - 2 * b * s,
};

function hardLight(b: number, s: number): number {
  return s <= 0.5 ? b * 2 * s : b + (2 * s - 1) - b * (2 * s - 1);
}

function softLight(b: number, s: number): number {
  if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
  const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
  return b + (2 * s - 1) * (d - b);
}

/**
 * Lays a premultiplied source (RGBA, 0 to `most`) over the backdrop at `at`, in place:
 * co = cs·αs·(1 − αb) + cb·αb·(1 − αs) + αs·αb·B(cb, cs), αo = αs + αb − αs·αb (section 5.8, with source-over).
 */
export function blendOver(
  mode: BlendMode,
  out: Float64Array,
  at: number,
  source: ArrayLike<number>,
  opacity: number,
  most: number,
): void {
  const alphaS = (source[3]! * opacity) / most;
  const alphaB = out[at + 3]! / most;
  for (let c = 0; c < 3; c++) {
    const s = (source[c]! * opacity) / most;
    const b = out[at + c]! / most;
    if (mode === 'plus-lighter') {
      out[at + c] = Math.min(1, s + b) * most;
      continue;
    }
    const both = alphaS * alphaB;
    const mixed =
      both > 0 ? both * BLEND_FORMULAS[mode](Math.min(1, b / alphaB), Math.min(1, s / alphaS)) : 0;
    out[at + c] = (s * (1 - alphaB) + b * (1 - alphaS) + mixed) * most;
  }
  const alpha = mode === 'plus-lighter' ? Math.min(1, alphaS + alphaB) : alphaS + alphaB - alphaS * alphaB;
  out[at + 3] = alpha * most;
}
