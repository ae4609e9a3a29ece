import { z } from 'zod';
import { artRefSchema } from './art-ref.ts';
import { LIMITS } from './limits.ts';

const pointSchema = z.tuple([z.number(), z.number()]);

export const SELECTION_MODES = ['add', 'subtract'] as const;

export type SelectionMode = (typeof SELECTION_MODES)[number];

const inMode = { mode: z.enum(SELECTION_MODES) };

/** One step of choosing what to cut, in px of the art that is cut. */
export const selectionStepSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('outline'), ...inMode, points: z.array(pointSchema).min(3).max(20_000) }),
  z.strictObject({
    kind: z.literal('colour'),
    ...inMode,
    at: pointSchema,
    /** Largest difference of any of the four channels, 0 to 255. */
    tolerance: z.number().min(0).max(255),
    contiguous: z.boolean(),
  }),
]);

export type SelectionStep = z.infer<typeof selectionStepSchema>;

/** A stroke of the copy brush: paint taken at `offset` from where it is put. */
export const copyStrokeSchema = z.strictObject({
  points: z.array(pointSchema).min(1).max(20_000),
  radiusPx: z.number().min(0.5).max(2000),
  offset: pointSchema,
});

export type CopyStroke = z.infer<typeof copyStrokeSchema>;

export const cutRecipeSchema = z.strictObject({
  steps: z.array(selectionStepSchema).max(1000),
  featherPx: z.number().min(0).max(500),
  fill: z.boolean(),
  copies: z.array(copyStrokeSchema).max(2000),
});

export type CutRecipe = z.infer<typeof cutRecipeSchema>;

/** One cut, and which of its two pieces this is. */
const cutStepSchema = z.strictObject({
  cutId: z.string().min(1).max(64),
  from: artRefSchema,
  part: z.enum(['taken', 'left']),
  /** Upper left corner of this piece in the art that was cut. */
  atPx: pointSchema,
  recipe: cutRecipeSchema,
});

export type CutStep = z.infer<typeof cutStepSchema>;

/** How an image was made from another, so that it can be made anew; the other one stays stored. */
export const madeSchema = z.discriminatedUnion('kind', [
  cutStepSchema.extend({
    kind: z.literal('cut'),
    /** The cuts that led to what was cut, the first of them first; none where it was the painting itself. */
    before: z.array(cutStepSchema).max(100).optional(),
  }),
  z.strictObject({
    kind: z.literal('recoloured'),
    from: artRefSchema,
    hueDeg: z.number().min(-180).max(180),
    saturation: z.number().min(0).max(4),
    brightness: z.number().min(0).max(4),
  }),
  /** Shortened so that it meets itself when it is tiled. */
  z.strictObject({
    kind: z.literal('seam-closed'),
    from: artRefSchema,
    axis: z.enum(['across', 'down']),
    fadePx: z.int().min(1).max(LIMITS.artPx.max),
  }),
]);

export type Made = z.infer<typeof madeSchema>;
