import { z } from 'zod';
import { paintSchema } from '../paint/index.ts';
import { PATH_LIMITS, parsePath } from '../shapes/index.ts';
import { artRefSchema } from './art-ref.ts';
import { coordinate, LIMITS, rateSchema } from './limits.ts';
import { madeSchema } from './recipe.ts';

export const CYCLES = ['loop', 'once', 'there-and-back'] as const;

export type Cycle = (typeof CYCLES)[number];

export const exposureSchema = z.strictObject({
  art: artRefSchema,
  /** How long it shows, in frames of the moving plane's own rate. */
  hold: z.int().min(LIMITS.holdFrames.min).max(LIMITS.holdFrames.max),
});

export type Exposure = z.infer<typeof exposureSchema>;

export const shapeSchema = z.strictObject({
  id: z.string().min(1).max(64),
  /** SVG path data: closed outlines of absolute M, L and C, in art px. */
  path: z
    .string()
    .max(PATH_LIMITS.length)
    .refine((data) => parsePath(data).ok, 'is not path data of closed outlines'),
  paint: paintSchema,
});

export type Shape = z.infer<typeof shapeSchema>;

/** What stands on a plane. */
export const contentSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('still'), art: artRefSchema, made: madeSchema.nullable() }),
  z.strictObject({
    kind: z.literal('moving'),
    exposures: z.array(exposureSchema).min(1).max(LIMITS.exposures.max),
    cycle: z.enum(CYCLES),
    /** The shot's frame at which the first exposure begins; before it the first one shows. */
    startFrame: z.int().min(-100_000).max(200_000),
    /** Its own rate; null means the shot's. */
    rate: rateSchema.nullable(),
  }),
  z.strictObject({
    kind: z.literal('card'),
    widthPx: z.number().min(1).max(1e6),
    heightPx: z.number().min(1).max(1e6),
    paint: paintSchema,
  }),
  z.strictObject({
    kind: z.literal('shapes'),
    widthPx: z.number().min(1).max(1e6),
    heightPx: z.number().min(1).max(1e6),
    /** On top first. */
    shapes: z.array(shapeSchema).max(LIMITS.shapes.max),
  }),
]);

export type Content = z.infer<typeof contentSchema>;

/** Where the plane's art stood in the file that it came from, for bringing in the next version. */
export const originSchema = z.strictObject({
  file: z.string().max(500),
  layer: z.string().max(LIMITS.nameLength.max),
  xPx: coordinate,
  yPx: coordinate,
  paintingWidthPx: z.number().min(1).max(1e7),
  paintingHeightPx: z.number().min(1).max(1e7),
});

export type Origin = z.infer<typeof originSchema>;
