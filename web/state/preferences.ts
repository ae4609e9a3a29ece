import { ROCK_WAYS } from '@keen-ridge/core/stage';
import { z } from 'zod';
import { create } from 'zustand';

export const SURROUNDS = ['dark', 'mid', 'light'] as const;
export type Surround = (typeof SURROUNDS)[number];
/** Greys round the picture, as 8-bit values; r = g = b. */
export const SURROUND_GREY: Readonly<Record<Surround, number>> = { dark: 0x2e, mid: 0x7d, light: 0xcf };

/** Shares of width and height: SMPTE ST 2046-1 is 93 % and 90 %; the older set is 90 % and 80 %. */
export const SAFE_SETS = ['off', 'modern', 'older', 'custom'] as const;
export const ASPECTS = ['none', '2.39', '1.85', '4:3', '9:16'] as const;
export type Aspect = (typeof ASPECTS)[number];
export const VIEWS = ['camera', 'fielding', 'around'] as const;
export type ViewName = (typeof VIEWS)[number];
export const STAND_AXES = ['log', 'true'] as const;

const preferencesSchema = z.object({
  keying: z.boolean().default(true),
  holdPicture: z.boolean().default(true),
  loop: z.boolean().default(true),
  surround: z.enum(SURROUNDS).default('mid'),
  /** How strongly art outside the frame is dimmed, 0 to 1. */
  maskStrength: z.number().min(0).max(1).default(0.7),
  /** Guides over the picture. */
  safeAreas: z.enum(SAFE_SETS).default('off'),
  customSafe: z
    .object({ action: z.number().min(0.1).max(1), title: z.number().min(0.1).max(1) })
    .default({ action: 0.9, title: 0.8 }),
  fieldChart: z.boolean().default(false),
  thirds: z.boolean().default(false),
  centre: z.boolean().default(false),
  aspect: z.enum(ASPECTS).default('none'),
  /** One or two views of the stage, left to right. */
  views: z.array(z.enum(VIEWS)).min(1).max(2).default(['camera']),
  standAxis: z.enum(STAND_AXES).default('log'),
  rock: z
    .object({
      way: z.enum(ROCK_WAYS),
      size: z.number().min(0.001).max(1),
      periodSeconds: z.number().min(0.5).max(60),
    })
    .default({ way: 'across', size: 0.1, periodSeconds: 4 }),
  /** The stand-in figure: how tall, and how many heads. */
  figure: z
    .object({ heightPx: z.number().min(1).max(100_000), heads: z.number().min(1).max(12) })
    .default({ heightPx: 480, heads: 6 }),
  lastFrameSize: z
    .object({ widthPx: z.number(), heightPx: z.number() })
    .default({ widthPx: 1920, heightPx: 1080 }),
});
type Preferences = z.infer<typeof preferencesSchema>;

const KEY = 'keen-ridge/preferences';

function stored(): Preferences {
  try {
    return preferencesSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? '{}'));
  } catch {
    // Written by another version or by hand: the defaults are always right.
    return preferencesSchema.parse({});
  }
}

/** Settings of this browser; they are kept when it closes. */
export const usePreferences = create<Preferences>(() => stored());
usePreferences.subscribe((state) => localStorage.setItem(KEY, JSON.stringify(state)));
export const setPreferences = (part: Partial<Preferences>): void => usePreferences.setState(part);
