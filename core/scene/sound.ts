import { z } from 'zod';
import { soundIdSchema } from './ids.ts';
import { LIMITS, unitInterval } from './limits.ts';

/** A sound to time by: laid under the shot, heard with it, in films on request. */
export const soundSchema = z.strictObject({
  id: soundIdSchema,
  /** Of its file. */
  name: z.string().min(1).max(LIMITS.nameLength.max),
  durationSeconds: z.number().positive().max(86_400),
  /** The frame with which it begins; before the first, its beginning is not heard. */
  startFrame: z.int().min(-1_000_000).max(1_000_000),
  /** 1 is as it was recorded. */
  volume: unitInterval,
  muted: z.boolean(),
});

export type Sound = z.infer<typeof soundSchema>;
