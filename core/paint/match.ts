import { linearOfSrgb, srgbOfLinear, type Triple } from './oklab.ts';
import { hexOfSrgb } from './packed-colour.ts';

/** Brightness and a glass that bring one colour to another. */
export interface MatchingGrade {
  readonly brightness: number;
  readonly tint: string;
  readonly tintStrength: number;
  /** Largest difference that is left, in levels of 255. */
  readonly leftLevels: number;
}

/** Darker than this there is no light to make anything of, sRGB in [0, 1]. */
const LEAST = 1 / 1024;
const MOST_BRIGHTNESS = 4;

/**
 * The grade that brings `from` to `to` (straight sRGB in [0, 1], as the plane has them without a grade): each channel
 * times brightness · tint, so the brightest gain is the brightness, and the glass takes the others back.
 */
export function matchingGrade(from: Triple, to: Triple): MatchingGrade {
  const gains = from.map((v, c) => (to[c as 0 | 1 | 2] + 1e-12) / Math.max(LEAST, v));
  const brightness = Math.min(MOST_BRIGHTNESS, Math.max(...gains));
  const glass = gains.map((gain) => Math.min(1, gain / brightness)) as [number, number, number];
  const tint = hexOfSrgb(glass);
  const seen = glass.map((_, c) => {
    const stop = Number.parseInt(tint.slice(1 + 2 * c, 3 + 2 * c), 16) / 255;
    return Math.min(1, from[c as 0 | 1 | 2] * brightness * stop);
  });
  const leftLevels = 255 * Math.max(...seen.map((v, c) => Math.abs(v - to[c as 0 | 1 | 2])));
  return { brightness, tint, tintStrength: tint === '#ffffff' ? 0 : 1, leftLevels };
}

/** What a colour was before the air and the filter: the other way through `throughAir` and a gain; clamped to [0, 1]. */
export function beforeAir(seen: Triple, transmission: number, air: Triple, gain: Triple): Triple {
  const back = (c: 0 | 1 | 2) => {
    const filtered = gain[c] > 0 ? Math.min(1, seen[c] / gain[c]) : 0;
    if (transmission <= 0) return filtered;
    const light = (linearOfSrgb(filtered) - linearOfSrgb(air[c]) * (1 - transmission)) / transmission;
    return Math.min(1, Math.max(0, srgbOfLinear(light)));
  };
  return [back(0), back(1), back(2)];
}

/** Looks of the camera to begin with, made for the demo: what the air and the light are like at four times of day. */
export const STARTING_LOOKS = {
  dawn: {
    airColour: '#e8b9a0',
    visibility: 14_000,
    brightness: 0.92,
    tint: '#ffd9c2',
    tintStrength: 0.5,
    glow: 0.18,
    vignette: 0.1,
  },
  noon: {
    airColour: '#c4d8e8',
    visibility: 60_000,
    brightness: 1.06,
    tint: '#fffdf2',
    tintStrength: 0.3,
    glow: 0.05,
    vignette: 0,
  },
  dusk: {
    airColour: '#8fa7c9',
    visibility: 24_000,
    brightness: 0.86,
    tint: '#e6c9dc',
    tintStrength: 0.5,
    glow: 0.2,
    vignette: 0.2,
  },
  night: {
    airColour: '#1c2a44',
    visibility: 12_000,
    brightness: 0.5,
    tint: '#8aa4d8',
    tintStrength: 0.75,
    glow: 0.35,
    vignette: 0.35,
  },
} as const;
export type StartingLook = keyof typeof STARTING_LOOKS;
