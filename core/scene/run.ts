import { z } from 'zod';
import { keyed } from './channel.ts';
import { LIMITS } from './limits.ts';

export const REPEATS = ['none', 'across', 'down', 'both'] as const;

/** Along which of its own axes a plane is tiled without end. */
export type Repeat = (typeof REPEATS)[number];

const runChannel = keyed(z.number().min(LIMITS.runSpeedPx.min).max(LIMITS.runSpeedPx.max));

export const runTimes = z.int().min(LIMITS.runTimes.min).max(LIMITS.runTimes.max);

/** How a plane slides by itself, along its own axes: east and south positive. */
export const runSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('speed'),
    /** Px a frame as a plane on the datum would slide, so that depth scales it; or its own on the home frame. */
    unit: z.enum(['datum', 'own']),
    x: runChannel,
    y: runChannel,
  }),
  /** Closes exactly: so many of its own widths and heights in so many frames. */
  z.strictObject({
    kind: z.literal('cycle'),
    timesX: runTimes,
    timesY: runTimes,
    frames: z.int().min(LIMITS.lengthFrames.min).max(LIMITS.lengthFrames.max),
  }),
]);

export type Run = z.infer<typeof runSchema>;
