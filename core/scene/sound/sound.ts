import { z } from 'zod';
import { LIMITS, unitInterval } from '../limits.ts';

/** SHA-256 of the bytes of a sound's file, lower-case hex. */
export const soundIdSchema = z
  .string()
  .regex(/^[0-9a-f]{64}$/, 'is not a SHA-256 in lower-case hex')
  .brand<'SoundId'>();

export type SoundId = z.infer<typeof soundIdSchema>;

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
