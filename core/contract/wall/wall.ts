import { z } from 'zod';
import { frameSizeSchema, LIMITS, rateSchema } from '../../scene/index.ts';

export const nameSchema = z.string().trim().min(1, 'must not be empty').max(LIMITS.nameLength.max);

export const shotCardSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  revision: z.int(),
  frame: frameSizeSchema,
  rate: rateSchema,
  lengthFrames: z.int(),
  planes: z.int(),
  /** ISO 8601. */
  madeAt: z.string(),
});
export type ShotCard = z.infer<typeof shotCardSchema>;

export const duplicateSchema = z.strictObject({
  name: nameSchema,
  /** Off: the same stage, with no key and no camera move. */
  withMove: z.boolean(),
});
export const moveShotSchema = z.strictObject({ productionId: z.uuid() });
/** All shots of a production, in the order in which they are to stand. */
export const orderSchema = z.strictObject({ shotIds: z.array(z.uuid()).max(10_000) });

/** What was deleted and can be brought back. */
export const binSchema = z.object({
  items: z.array(
    z.object({
      kind: z.enum(['production', 'shot']),
      id: z.uuid(),
      name: z.string(),
      /** Of a shot: its production. */
      productionName: z.string().nullable(),
      deletedAt: z.string(),
    }),
  ),
});
export type BinItem = z.infer<typeof binSchema>['items'][number];

/** A shot as a reel plays it: by its newest film that a page can play; null where there is none. */
export const reelShotSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  rate: rateSchema,
  lengthFrames: z.int(),
  filmId: z.uuid().nullable(),
});
export type ReelShot = z.infer<typeof reelShotSchema>;
export const reelSchema = z.object({ name: z.string(), shots: z.array(reelShotSchema) });

export const PRODUCTION_EXPORTS = ['csv', 'otio', 'sheet'] as const;
export type ProductionExport = (typeof PRODUCTION_EXPORTS)[number];
export const productionExportSchema = z.object({ as: z.enum(PRODUCTION_EXPORTS) });

export const packageQuerySchema = z.object({ name: z.string().min(1).max(LIMITS.nameLength.max) });
/** A shot that came out of a package, and a sentence for each plane that had to be left out. */
export const openedShotSchema = z.object({ id: z.uuid(), name: z.string(), leftOut: z.array(z.string()) });
export type OpenedShot = z.infer<typeof openedShotSchema>;

export const productionSchema = z.object({ id: z.uuid(), name: z.string(), shots: z.array(shotCardSchema) });
export type Production = z.infer<typeof productionSchema>;
export const wallSchema = z.object({ productions: z.array(productionSchema) });

export const newProductionSchema = z.strictObject({ name: nameSchema });
export const renameSchema = z.strictObject({ name: nameSchema });
export const newShotSchema = z.strictObject({
  name: nameSchema,
  ...frameSizeSchema.shape,
  rate: rateSchema,
  lengthFrames: z.int().min(LIMITS.lengthFrames.min).max(LIMITS.lengthFrames.max),
});
export type NewShot = z.infer<typeof newShotSchema>;
export const createdSchema = z.object({ id: z.uuid() });

/** Sizes offered first; any size can be typed. */
export const FRAME_PRESETS = [
  { name: 'HD 1080', widthPx: 1920, heightPx: 1080 },
  { name: 'HD 720', widthPx: 1280, heightPx: 720 },
  { name: 'UHD 2160', widthPx: 3840, heightPx: 2160 },
  { name: '2K flat 1.85', widthPx: 1998, heightPx: 1080 },
  { name: '2K scope 2.39', widthPx: 2048, heightPx: 858 },
  { name: 'Upright 9:16', widthPx: 1080, heightPx: 1920 },
] as const;
