import { z } from 'zod';
import { LIMITS } from '../../scene/index.ts';
import { newShelfPieceSchema } from '../art.ts';
import { newSetSchema } from '../sets/index.ts';
import { surveyLimitsSchema } from '../survey.ts';
import { newKeptLookSchema } from '../wall/index.ts';

export const ARCHIVE_VERSION = 2;
/** The part of an archive that says what is in it. */
export const PRODUCTION_PART = 'production.json';

const part = z.string().regex(/^[a-z0-9/_.-]{1,200}$/, 'is not a name of a part');
const name = z.string().min(1).max(LIMITS.nameLength.max);

/** A whole production: its shots and takes, each with its scene in a part of its own, and what it keeps. */
export const archiveSchema = z.strictObject({
  format: z.literal('keen-ridge-production'),
  /** The first knew no sets. */
  version: z.union([z.literal(1), z.literal(ARCHIVE_VERSION)]),
  name,
  surveyLimits: surveyLimitsSchema.nullable(),
  /** In their order. */
  shots: z
    .array(
      z.strictObject({
        name,
        scene: part,
        takes: z.array(z.strictObject({ name, note: z.string().max(2000), scene: part })).max(1000),
      }),
    )
    .max(10_000),
  looks: z.array(newKeptLookSchema).max(10_000),
  shelf: z.array(newShelfPieceSchema).max(10_000),
  sets: z.array(newSetSchema).max(10_000).default([]),
});
export type Archive = z.infer<typeof archiveSchema>;

export const archiveQuerySchema = z.object({ name: z.string().min(1).max(LIMITS.nameLength.max) });
/** A production that came out of an archive, and a sentence for each plane that had to be left out. */
export const openedArchiveSchema = z.object({ id: z.uuid(), name: z.string(), leftOut: z.array(z.string()) });
export type OpenedArchive = z.infer<typeof openedArchiveSchema>;

/** An archive may be far larger than anything that is brought in. */
export const LARGEST_ARCHIVE_BYTES = 256 * 2 ** 30;
