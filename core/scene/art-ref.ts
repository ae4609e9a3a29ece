import { z } from 'zod';
import { artIdSchema } from './ids.ts';
import { LIMITS } from './limits.ts';

/** A half-open box of art px; null paint means that the art is empty. */
const boxSchema = z.strictObject({ x0: z.number(), y0: z.number(), x1: z.number(), y1: z.number() });

export const artRefSchema = z.strictObject({
  id: artIdSchema,
  widthPx: z.int().min(LIMITS.artPx.min).max(LIMITS.artPx.max),
  heightPx: z.int().min(LIMITS.artPx.min).max(LIMITS.artPx.max),
  painted: boxSchema.nullable(),
  /** Sides at which the paint is cut off by the border of the art. */
  cutEdges: z.strictObject({ left: z.boolean(), right: z.boolean(), top: z.boolean(), bottom: z.boolean() }),
});

export type ArtRef = z.infer<typeof artRefSchema>;
