import { z } from 'zod';
import { LIMITS } from '../../scene/index.ts';
import { soundIdSchema } from '../../scene/sound/index.ts';

export const LARGEST_SOUND_BYTES = 256 * 2 ** 20;
/** A sound may be so long; a shot is shorter. */
export const LONGEST_SOUND_SECONDS = 3600;
/** Peaks of a sound in a second of it. */
export const PEAKS_PER_SECOND = 100;

export const soundQuerySchema = z.object({ name: z.string().min(1).max(LIMITS.nameLength.max) });

/** A sound that was brought in. */
export const soundAnswerSchema = z.object({
  id: soundIdSchema,
  name: z.string(),
  durationSeconds: z.number().positive(),
});
