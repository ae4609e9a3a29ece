import { type Affine, compose, rotation, scaling, translation } from '../geometry/index.ts';
import { memo } from '../units/index.ts';
import { oklabOfSrgb, srgbOfOklab, type Triple } from './oklab.ts';
import type { Gradient, GradientStop, MixSpace, Paint } from './paint.ts';

/** Entries of a ramp: on a 4K-wide card one entry is one pixel, and a step is at most a sixteenth of an 8-bit level. */
export const RAMP_LENGTH = 4096;

/** `#rrggbb` to sRGB in [0, 1]. */
export const srgbOfHex = (hex: string): Triple => [
  Number.parseInt(hex.slice(1, 3), 16) / 255,
  Number.parseInt(hex.slice(3, 5), 16) / 255,
  Number.parseInt(hex.slice(5, 7), 16) / 255,
];

/** Premultiplied sRGB and alpha in [0, 1] at `t`, mixed with premultiplied colours (CSS Color Level 4, section 12.3). */
export function colourAt(stops: readonly GradientStop[], space: MixSpace, t: number): number[] {
  const after = stops.findIndex((stop) => stop.at > t);
  const to = stops[after === -1 ? stops.length - 1 : after] as GradientStop;
  const from = (after === -1 ? to : after === 0 ? to : stops[after - 1]) as GradientStop;
  const share = to.at > from.at ? (t - from.at) / (to.at - from.at) : 0;
  return mix(from, to, Math.min(1, Math.max(0, share)), space);
}

function mix(from: GradientStop, to: GradientStop, share: number, space: MixSpace): number[] {
  const alpha = from.opacity + (to.opacity - from.opacity) * share;
  if (alpha === 0) return [0, 0, 0, 0];
  const into = (stop: GradientStop): Triple =>
    space === 'oklab' ? oklabOfSrgb(srgbOfHex(stop.colour)) : srgbOfHex(stop.colour);
  const [p, q] = [into(from), into(to)];
  const at = (c: 0 | 1 | 2) => (p[c] * from.opacity * (1 - share) + q[c] * to.opacity * share) / alpha;
  const mixed: Triple = [at(0), at(1), at(2)];
  const srgb = space === 'oklab' ? srgbOfOklab(mixed) : mixed;
  return [...srgb.map((v) => Math.min(1, Math.max(0, v)) * alpha), alpha];
}

/** Premultiplied RGBA, 0 to 255, at RAMP_LENGTH even steps of the gradient; a solid is a ramp of one entry. */
export const rampOf: (paint: Paint) => Float32Array = memo((paint: Paint): Float32Array => {
  const length = paint.kind === 'solid' ? 1 : RAMP_LENGTH;
  const ramp = new Float32Array(length * 4);
  for (let i = 0; i < length; i++) {
    const colour =
      paint.kind === 'solid'
        ? [...srgbOfHex(paint.colour).map((v) => v * paint.opacity), paint.opacity]
        : colourAt(paint.stops, paint.space, (i + 0.5) / length);
    ramp.set(
      colour.map((v) => v * 255),
      i * 4,
    );
  }
  return ramp;
});

/**
 * The map from px of a box to the gradient's own plane: linear gradients run along x from 0 to 1, radial ones from
 * the origin to the circle of radius 1. The line of a linear gradient is as long as CSS makes it: w·|sin| + h·|cos|.
 */
export function boxToGradient(
  paint: Gradient,
  box: { readonly x: number; readonly y: number; readonly widthPx: number; readonly heightPx: number },
): Affine {
  const { x, y, widthPx, heightPx } = box;
  if (paint.kind === 'radial') {
    const reach = (Math.hypot(widthPx, heightPx) / 2) * paint.radius;
    return compose(
      scaling(1 / reach),
      translation(-(x + paint.centreX * widthPx), -(y + paint.centreY * heightPx)),
    );
  }
  const radians = (paint.angleDeg * Math.PI) / 180;
  const length = Math.max(
    1e-6,
    Math.abs(widthPx * Math.sin(radians)) + Math.abs(heightPx * Math.cos(radians)),
  );
  const fromCentre = translation(-(x + widthPx / 2), -(y + heightPx / 2));
  const along = compose(rotation(90 - paint.angleDeg), fromCentre);
  return compose(translation(0.5, 0.5), compose(scaling(1 / length), along));
}
