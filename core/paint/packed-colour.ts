import { srgbOfHex } from './gradient.ts';
import { oklabOfSrgb, srgbOfOklab, type Triple } from './oklab.ts';

/**
 * An sRGB colour as one number, so that it can be keyed like any other: 16 bits a channel, red highest. Whole numbers up
 * to 2^48 are exact in a double.
 */
export type PackedColour = number;

const MOST = 65_535;
const STEP = 65_536;

/** sRGB in [0, 1], clamped to it. */
export function packColour(colour: Triple): PackedColour {
  const [r, g, b] = colour.map((v) => Math.round(Math.min(1, Math.max(0, v)) * MOST)) as [
    number,
    number,
    number,
  ];
  return (r * STEP + g) * STEP + b;
}

/** sRGB in [0, 1]. What is no packed colour is brought into range. */
export function unpackColour(packed: PackedColour): Triple {
  const whole = Math.min(STEP ** 3 - 1, Math.max(0, Math.round(packed)));
  const b = whole % STEP;
  const rest = (whole - b) / STEP;
  const g = rest % STEP;
  return [(rest - g) / STEP / MOST, g / MOST, b / MOST];
}

export const packHex = (hex: string): PackedColour => packColour(srgbOfHex(hex));

/** `#rrggbb`, rounded to bytes. */
export const hexOfSrgb = (colour: Triple): string =>
  `#${colour
    .map((v) =>
      Math.round(Math.min(1, Math.max(0, v)) * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;

export const hexOfPacked = (packed: PackedColour): string => hexOfSrgb(unpackColour(packed));

const toLab = (packed: PackedColour): Triple => oklabOfSrgb(unpackColour(packed));
const fromLab = (lab: Triple): PackedColour => packColour(srgbOfOklab(lab));

/** The colour at `share` of the way in OKLab (Ottosson 2020), straight between the two; gamut is kept by clamping sRGB. */
export function mixPacked(from: PackedColour, to: PackedColour, share: number): PackedColour {
  if (from === to || share === 0) return from;
  if (share === 1) return to;
  const [p, q] = [toLab(from), toLab(to)];
  const at = (i: 0 | 1 | 2) => p[i] + (q[i] - p[i]) * share;
  return fromLab([at(0), at(1), at(2)]);
}

/** A colour moved in OKLab by as much as lies from one colour to another. */
export function shiftPacked(colour: PackedColour, from: PackedColour, to: PackedColour): PackedColour {
  if (colour === from) return to;
  const [c, p, q] = [toLab(colour), toLab(from), toLab(to)];
  const at = (i: 0 | 1 | 2) => c[i] + q[i] - p[i];
  return fromLab([at(0), at(1), at(2)]);
}

/** How far two colours lie apart in OKLab: black and white 1. */
export function colourDistance(from: PackedColour, to: PackedColour): number {
  const [p, q] = [toLab(from), toLab(to)];
  return Math.hypot(q[0] - p[0], q[1] - p[1], q[2] - p[2]);
}
