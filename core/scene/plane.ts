import { z } from 'zod';
import { BLEND_MODES, gradeSchema, MOST_SOFT_EDGE_PX } from '../paint/index.ts';
import { keyed, keyedColour } from './channel.ts';
import { contentSchema, originSchema } from './content.ts';
import { pinIdSchema, planeIdSchema, setIdSchema } from './ids.ts';
import { coordinate, holdsAtMost, LIMITS, unitInterval } from './limits.ts';
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
  // Those of the look stand in place of what the grade says.
  brightness: keyed(z.number().min(0).max(4)).optional(),
  saturation: keyed(z.number().min(0).max(4)).optional(),
  tint: keyedColour().optional(),
  tintStrength: keyed(unitInterval).optional(),
  /** Art px. */
  softEdge: keyed(z.number().min(0).max(MOST_SOFT_EDGE_PX)).optional(),
});

export const PASSINGS = ['fade', 'defocus'] as const;

/** What a plane does while the camera comes near it and passes: over the last `overSpx` of distance. */
export const passingSchema = z.strictObject({
  way: z.enum(PASSINGS),
  overSpx: z.number().positive().max(1e7),
});

export type Passing = z.infer<typeof passingSchema>;

/** A light that flickers: its opacity falls by up to `amount`, by seeded waves of a quarter of the frequency and more. */
export const flickerSchema = z.strictObject({
  on: z.boolean(),
  amount: unitInterval,
  frequencyHz: z.number().min(0.01).max(100),
  seed: z.int().min(0).max(1e9),
  loops: z.boolean(),
});

export type Flicker = z.infer<typeof flickerSchema>;

/** A point of a plane that others need to know of, on every frame: a table's corner, a lamp. */
export const pinSchema = z.strictObject({
  name: z.string().min(1).max(LIMITS.nameLength.max),
  xArtPx: coordinate,
  yArtPx: coordinate,
});

export type Pin = z.infer<typeof pinSchema>;

/**
 * Where a plane is of a set that several shots use: which of its planes, and whether it is as the set has it or the
 * shot's own copy.
 */
export const setLinkSchema = z.strictObject({ set: setIdSchema, plane: planeIdSchema, follows: z.boolean() });

export type SetLink = z.infer<typeof setLinkSchema>;

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
  /** How it is laid over what is behind it; as paint where nothing is said. */
  mode: z.enum(BLEND_MODES).optional(),
  flicker: flickerSchema.optional(),
  pins: z
    .record(pinIdSchema, pinSchema)
    .refine(holdsAtMost(LIMITS.pins.max), `has over ${LIMITS.pins.max} pins`)
    .optional(),
  moves: planeMovesSchema,
  /** In place of x, y and depth. */
  track: trackSchema.nullable(),
  passing: passingSchema.nullable(),
  hidden: z.boolean(),
  locked: z.boolean(),
  ofSet: setLinkSchema.optional(),
});

export type Plane = z.infer<typeof planeSchema>;
