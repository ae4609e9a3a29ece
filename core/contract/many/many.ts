import { z } from 'zod';
import { importedPaintingSchema } from '../../art/landing/index.ts';
import { authorSchema } from '../../history/index.ts';
import { frameSizeSchema, rateSchema } from '../../scene/index.ts';

const MOST_SHOTS = 1000;
const shotIds = z.array(z.uuid()).min(1).max(MOST_SHOTS);

/** What is done to several shots at once. */
export const manyChangeSchema = z.discriminatedUnion('kind', [
  /** Everything happens at the same second as before, or on the same frame. */
  z.strictObject({ kind: z.literal('rate'), rate: rateSchema, keep: z.enum(['seconds', 'frames']) }),
  z.strictObject({ kind: z.literal('size'), ...frameSizeSchema.shape }),
  /** Paintings that were brought in: planes that came from files of the same names take them. */
  z.strictObject({ kind: z.literal('art'), paintings: z.array(importedPaintingSchema).min(1).max(200) }),
]);
export type ManyChange = z.output<typeof manyChangeSchema>;

export const changeManySchema = z.strictObject({ shotIds, author: authorSchema, change: manyChangeSchema });
export type ChangeMany = z.output<typeof changeManySchema>;

/** Shots that were changed, those in which there was nothing to change, and those that were left, each with why. */
export const changedManySchema = z.object({
  changed: z.array(z.object({ id: z.uuid(), name: z.string() })),
  same: z.array(z.object({ id: z.uuid(), name: z.string() })),
  left: z.array(z.object({ id: z.uuid(), name: z.string(), why: z.string() })),
});
export type ChangedMany = z.infer<typeof changedManySchema>;

/** A painting that was saved in the watched folder, and the shots that use an older version of it. */
export const offerSchema = z.object({
  id: z.uuid(),
  file: z.string(),
  at: z.string(),
  shots: z.array(z.object({ id: z.uuid(), name: z.string(), productionName: z.string() })),
  /** Why it could not be read; null where it was. */
  fault: z.string().nullable(),
});
export type Offer = z.infer<typeof offerSchema>;
/** `folder`: what is watched; null where nothing is. */
export const offersSchema = z.object({ folder: z.string().nullable(), offers: z.array(offerSchema) });

export const takeOfferSchema = z.strictObject({ shotIds, author: authorSchema });
