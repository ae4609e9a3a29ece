import { z } from 'zod';
import { BLEND_MODES } from '../../paint/index.ts';
import { artRefSchema, LIMITS, rateSchema } from '../../scene/index.ts';

export const layerNameSchema = z.string().min(1).max(LIMITS.nameLength.max);

export const shareSchema = z.number().min(0).max(1);

/** See `likenessOf`: 8 × 8 RGBA. */
export const likenessSchema = z.array(z.number()).length(256);

const importedLayerSchema = z.object({
  kind: z.literal('layer'),
  /** Names the node within its painting. */
  key: z.string(),
  name: layerNameSchema,
  /** The file that it came from, where that is not the painting's. */
  file: z.string().max(500).optional(),
  xPx: z.number(),
  yPx: z.number(),
  opacity: shareSchema,
  hidden: z.boolean(),
  /** As paint where nothing is said. */
  mode: z.enum(BLEND_MODES).optional(),
  art: artRefSchema,
  likeness: likenessSchema,
  /** The pictures of a layer that moves, each with how long it shows. */
  frames: z.array(z.object({ art: artRefSchema, delayMs: z.number().min(0) })).nullable(),
  /** The rate of a film, whose frames all take the same time. */
  rate: rateSchema.optional(),
});

export type ImportedLayer = z.infer<typeof importedLayerSchema>;

const importedGroupSchema = z.object({
  kind: z.literal('group'),
  key: z.string(),
  name: layerNameSchema,
  opacity: shareSchema,
  hidden: z.boolean(),
  get children(): z.ZodArray<
    z.ZodDiscriminatedUnion<[typeof importedLayerSchema, typeof importedGroupSchema]>
  > {
    return z.array(importedNodeSchema);
  },
});

export type ImportedGroup = z.infer<typeof importedGroupSchema>;

export const importedNodeSchema = z.discriminatedUnion('kind', [importedLayerSchema, importedGroupSchema]);

export type ImportedNode = ImportedLayer | ImportedGroup;

/** One picture or layered document that was read from a file. */
export const importedPaintingSchema = z.object({
  file: z.string().max(500),
  widthPx: z.number().min(1),
  heightPx: z.number().min(1),
  /** On top first. */
  nodes: z.array(importedNodeSchema),
  /** One sentence each, ready to show. */
  notKept: z.array(z.string()),
  /** The file does not say how alpha is held, and the pixels could be either. */
  alphaUnsure: z.boolean(),
  /** Px per CSS px at which a drawing was rendered; null for paintings. */
  svgScale: z.number().nullable(),
});

export type ImportedPainting = z.infer<typeof importedPaintingSchema>;

export const importedArtSchema = z.object({ paintings: z.array(importedPaintingSchema) });

export type ImportedArt = z.infer<typeof importedArtSchema>;
