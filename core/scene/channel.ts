import { z } from 'zod';
import { colourSchema } from '../paint/index.ts';
import { BEYONDS } from '../timing/index.ts';
import { planeIdSchema } from './ids.ts';
import { holdsAtMost, LIMITS, unitInterval } from './limits.ts';

export const easeSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('linear') }),
  z.strictObject({ kind: z.literal('hold') }),
  z.strictObject({
    kind: z.literal('bezier'),
    x1: unitInterval,
    y1: z.number().min(-10).max(10),
    x2: unitInterval,
    y2: z.number().min(-10).max(10),
  }),
]);

export const keyFrame = z.int().min(LIMITS.keyFrame.min).max(LIMITS.keyFrame.max);

/** A whole frame as text, spelled in one way only, so that no two names mean one frame. */
const frameName = z
  .string()
  .regex(/^(0|-?[1-9]\d{0,6})$/, 'is not a whole frame')
  .refine(
    (name) => Number(name) >= LIMITS.keyFrame.min && Number(name) <= LIMITS.keyFrame.max,
    `must lie between ${LIMITS.keyFrame.min} and ${LIMITS.keyFrame.max}`,
  );

/** Muted: rests as if it had no keys. Locked: no edit reaches it. */
export const marks = { muted: z.literal(true).optional(), locked: z.literal(true).optional() };

/** What it does before its first key and after its last; it rests where nothing is said. */
export const beyond = { before: z.enum(BEYONDS).optional(), after: z.enum(BEYONDS).optional() };

/** A channel as it is stored, of values of some kind: its keys by frame. */
const keyedBy = <V extends z.ZodType, K extends z.ZodRawShape>(value: V, of: K) =>
  z.strictObject({
    value,
    ...of,
    ...marks,
    ...beyond,
    keys: z
      .record(frameName, z.strictObject({ value, ease: easeSchema, ...of }))
      .refine(holdsAtMost(LIMITS.keys.max), `has over ${LIMITS.keys.max} keys`),
  });

/** A channel of numbers. `channelOf` gives it as it plays. */
export const keyed = (value: z.ZodNumber) => keyedBy(value, {});

/** A channel of colours. */
export const keyedColour = () => keyedBy(colourSchema, {});

/** A channel of depths, each of which may be that of a plane, wherever it goes. */
export const keyedDepth = (value: z.ZodNumber) => keyedBy(value, { follows: planeIdSchema.optional() });

export type ChannelRecord = z.infer<ReturnType<typeof keyedDepth>>;
export type ColourRecord = z.infer<ReturnType<typeof keyedColour>>;
