import { z } from 'zod';
import { importedArtSchema, layerNameSchema, likenessSchema, shareSchema } from '../art/landing/index.ts';
import { BLEND_MODES } from '../paint/index.ts';
import { artIdSchema, artRefSchema, contentSchema, LIMITS, planeSchema } from '../scene/index.ts';
import { problemSchema } from './problem.ts';

export const LARGEST_UPLOAD_BYTES = 1024 * 2 ** 20;

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
    .array(
      z.strictObject({
        artId: artIdSchema,
        xPx: z.int(),
        yPx: z.int(),
        opacity: shareSchema,
        mode: z.enum(BLEND_MODES).optional(),
      }),
    )
    .min(1)
    .max(LIMITS.planes.max),
});

export type MergeRequest = z.infer<typeof mergeRequestSchema>;

/** An image and where its upper left corner lies. */
export const placedArtSchema = z.object({
  art: artRefSchema,
  xPx: z.number(),
  yPx: z.number(),
  likeness: likenessSchema,
});

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

export const artAnswerSchema = z.object({ art: artRefSchema, likeness: likenessSchema });

export const likenessesRequestSchema = z.strictObject({ ids: z.array(artIdSchema).max(5000) });

export const likenessesSchema = z.object({ likenesses: z.record(z.string(), likenessSchema) });

/** Planes with their staging: depth, size, keys, look, and what rides on what. In their order, on top first. */
const planeSetSchema = z.strictObject({
  kind: z.literal('set'),
  planes: z.array(planeSchema).min(1).max(LIMITS.planes.max),
});

export type PlaneSet = z.infer<typeof planeSetSchema>;

const shelfContentSchema = z.union([contentSchema, planeSetSchema]);

/** What a piece of the art shelf is: the content of one plane, or a set of planes. */
export type ShelfContent = z.infer<typeof shelfContentSchema>;

/** A piece of the art shelf, kept for the whole production. */
export const shelfPieceSchema = z.object({
  id: z.uuid(),
  name: layerNameSchema,
  content: shelfContentSchema,
  from: z.string(),
});

export type ShelfPiece = z.infer<typeof shelfPieceSchema>;

export const shelfSchema = z.object({ pieces: z.array(shelfPieceSchema) });

export const newShelfPieceSchema = z.strictObject({
  name: layerNameSchema,
  content: shelfContentSchema,
  from: z.string().max(500),
});

export type NewShelfPiece = z.infer<typeof newShelfPieceSchema>;

/** The levels of an image, finest first, with their tile maps deflated and in base64. */
export const imageManifestSchema = z.object({
  /** Texels of four bytes, or of four 15-bit lanes in 16 bits each; premultiplied. */
  texelBytes: z.union([z.literal(4), z.literal(8)]),
  levels: z.array(z.object({ widthPx: z.int(), heightPx: z.int(), tiles: z.string() })),
});

export type ImageManifest = z.infer<typeof imageManifestSchema>;
