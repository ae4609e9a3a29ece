import { z } from 'zod';
import { create } from 'zustand';

export const SURROUNDS = ['dark', 'mid', 'light'] as const;
export type Surround = (typeof SURROUNDS)[number];
/** Greys round the picture, as 8-bit values; r = g = b. */
export const SURROUND_GREY: Readonly<Record<Surround, number>> = { dark: 0x2e, mid: 0x7d, light: 0xcf };

const preferencesSchema = z.object({
  keying: z.boolean().default(true),
  holdPicture: z.boolean().default(true),
  loop: z.boolean().default(true),
  surround: z.enum(SURROUNDS).default('mid'),
  /** How strongly art outside the frame is dimmed, 0 to 1. */
  maskStrength: z.number().min(0).max(1).default(0.7),
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
