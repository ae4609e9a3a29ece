/** sRGB value in [0, 1] to linear light (IEC 61966-2-1). */
export const linearOfSrgb = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);

/** Linear light to an sRGB value (IEC 61966-2-1); outside [0, 1] by the odd extension of CSS Color Level 4. */
export function srgbOfLinear(v: number): number {
  const size = Math.abs(v);
  const coded = size <= 0.0031308 ? size * 12.92 : 1.055 * size ** (1 / 2.4) - 0.055;
  return v < 0 ? -coded : coded;
}

/** Three numbers: sRGB in [0, 1], or OKLab L in [0, 1] with a and b about [−0.4, 0.4]. */
export type Triple = readonly [number, number, number];

/** sRGB to OKLab (Ottosson 2020; the matrices of CSS Color Level 4, section 10.8, as published by its author). */
export function oklabOfSrgb([red, green, blue]: Triple): Triple {
  const [r, g, b] = [linearOfSrgb(red), linearOfSrgb(green), linearOfSrgb(blue)];
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

/** OKLab to sRGB, unclamped. */
export function srgbOfOklab([lightness, a, b]: Triple): Triple {
  const l = (lightness + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const m = (lightness - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const s = (lightness - 0.0894841775 * a - 1.291485548 * b) ** 3;
  return [
    srgbOfLinear(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s),
    srgbOfLinear(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s),
    srgbOfLinear(-0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s),
  ];
}
