import { z } from 'zod';
import { artIdSchema, artRefSchema, contentSchema, LIMITS } from '../document/index.ts';
import { problemSchema } from './problem.ts';

export const LARGEST_UPLOAD_BYTES = 1024 * 2 ** 20;

const name = z.string().min(1).max(LIMITS.nameLength.max);
const unit = z.number().min(0).max(1);
/** See `lookOf`: 8 × 8 RGBA. */
const look = z.array(z.number()).length(256);

const importedLayerSchema = z.object({
  kind: z.literal('layer'),
  /** Names the node within its painting. */
  key: z.string(),
  name,
  xPx: z.number(),
  yPx: z.number(),
  opacity: unit,
  hidden: z.boolean(),
  art: artRefSchema,
  look,
  /** The pictures of a layer that moves, each with how long it shows. */
  frames: z.array(z.object({ art: artRefSchema, delayMs: z.number().min(0) })).nullable(),
});
export type ImportedLayer = z.infer<typeof importedLayerSchema>;

const importedGroupSchema = z.object({
  kind: z.literal('group'),
  key: z.string(),
  name,
  opacity: unit,
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

/** A line of the answer to an upload, when it is asked for as lines. */
export const importLineSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('progress'), done: z.int(), total: z.int(), what: z.string() }),
  z.object({ kind: z.literal('done'), art: importedArtSchema }),
  z.object({ kind: z.literal('problem'), problem: problemSchema }),
]);
export type ImportLine = z.infer<typeof importLineSchema>;

export const LARGEST_SVG_SCALE = 32;
export const uploadQuerySchema = z.object({
  name: z.string().min(1).max(20_000),
  svgScale: z.coerce.number().min(0.01).max(LARGEST_SVG_SCALE).default(1),
});

export const mergeRequestSchema = z.strictObject({
  /** On top first. */
  layers: z
    .array(z.strictObject({ artId: artIdSchema, xPx: z.int(), yPx: z.int(), opacity: unit }))
    .min(1)
    .max(LIMITS.planes.max),
});
export type MergeRequest = z.infer<typeof mergeRequestSchema>;
/** An image and where its upper left corner lies. */
export const placedArtSchema = z.object({ art: artRefSchema, xPx: z.number(), yPx: z.number(), look });
export type PlacedArt = z.infer<typeof placedArtSchema>;

export const changeRequestSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('recolour'),
    hueDeg: z.number().min(-180).max(180),
    saturation: z.number().min(0).max(4),
    brightness: z.number().min(0).max(4),
  }),
  z.strictObject({ kind: z.literal('straighten') }),
]);
export type ChangeRequest = z.infer<typeof changeRequestSchema>;

export const pixelsQuerySchema = z.object({
  widthPx: z.coerce.number().int().min(1).max(LIMITS.artPx.max),
  heightPx: z.coerce.number().int().min(1).max(LIMITS.artPx.max),
});
export const artAnswerSchema = z.object({ art: artRefSchema, look });

export const looksRequestSchema = z.strictObject({ ids: z.array(artIdSchema).max(5000) });
export const looksSchema = z.object({ looks: z.record(z.string(), look) });

/** A piece of the art shelf: a plane's name and content, kept for the whole production. */
export const shelfPieceSchema = z.object({ id: z.uuid(), name, content: contentSchema, from: z.string() });
export type ShelfPiece = z.infer<typeof shelfPieceSchema>;
export const shelfSchema = z.object({ pieces: z.array(shelfPieceSchema) });
export const newShelfPieceSchema = z.strictObject({
  name,
  content: contentSchema,
  from: z.string().max(500),
});

/** The levels of an image, finest first, with their tile maps deflated and in base64. */
export const imageManifestSchema = z.object({
  levels: z.array(z.object({ widthPx: z.int(), heightPx: z.int(), tiles: z.string() })),
});
export type ImageManifest = z.infer<typeof imageManifestSchema>;
