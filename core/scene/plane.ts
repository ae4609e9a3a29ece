import { z } from 'zod';
import { gradeSchema } from '../paint/index.ts';
import { keyed } from './channel.ts';
import { contentSchema, originSchema } from './content.ts';
import { planeIdSchema } from './ids.ts';
import { coordinate, LIMITS, unitInterval } from './limits.ts';
import { mountSchema } from './mount.ts';
import { REPEATS, runSchema } from './run.ts';
import { trackSchema } from './track.ts';

const nonZeroScale = z
  .number()
  .min(-1e6)
  .max(1e6)
  .refine((s) => Math.abs(s) > 1e-9, 'must not be zero');

export const transformSchema = z.strictObject({
  xSpx: coordinate,
  ySpx: coordinate,
  scaleX: nonZeroScale,
  scaleY: nonZeroScale,
  rotationDeg: z.number().min(-36_000).max(36_000),
  /** Slide across for one px down, before the turn. */
  skew: z.number().min(-1e6).max(1e6),
  anchorXArtPx: coordinate,
  anchorYArtPx: coordinate,
});

const finite = z.number().min(-1e8).max(1e8);

export const positive = z.number().min(1e-6).max(1e6);

/** Channels of a plane that have keys; they count from how it stands: added, but size and opacity multiply. */
export const planeMovesSchema = z.strictObject({
  x: keyed(finite).optional(),
  y: keyed(finite).optional(),
  depth: keyed(finite).optional(),
  scale: keyed(positive).optional(),
  rotation: keyed(finite).optional(),
  opacity: keyed(z.number().min(0).max(1e6)).optional(),
  /** Diameter, output px. */
  blur: keyed(z.number().min(0).max(1000)).optional(),
});

export const PASSINGS = ['fade', 'defocus'] as const;

/** What a plane does while the camera comes near it and passes: over the last `overSpx` of distance. */
export const passingSchema = z.strictObject({
  way: z.enum(PASSINGS),
  overSpx: z.number().positive().max(1e7),
});

export type Passing = z.infer<typeof passingSchema>;

export const planeSchema = z.strictObject({
  id: planeIdSchema,
  name: z.string().min(1).max(LIMITS.nameLength.max),
  /** Planes of one group share its name; null stands alone. */
  group: z.string().min(1).max(LIMITS.nameLength.max).nullable(),
  content: contentSchema,
  origin: originSchema.nullable(),
  mount: mountSchema,
  depthSpx: coordinate,
  transform: transformSchema,
  repeat: z.enum(REPEATS),
  run: runSchema.nullable(),
  opacity: unitInterval,
  /** Null leaves the art as it was painted. */
  grade: gradeSchema.nullable(),
  moves: planeMovesSchema,
  /** In place of x, y and depth. */
  track: trackSchema.nullable(),
  passing: passingSchema.nullable(),
  hidden: z.boolean(),
  locked: z.boolean(),
});

export type Plane = z.infer<typeof planeSchema>;
