import { z } from 'zod';
import { EDIT_ACTIONS, patchSchema } from '../../history/index.ts';
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

const by = { authorId: z.string().max(64), authorName: z.string().max(80), madeAt: z.iso.datetime() };
const revision = z.int().min(0);

/** What was done to a shot: every edit, and every step from a revision to the next, so that it is undone as it was there. */
export const shotHistorySchema = z.strictObject({
  revision,
  edits: z
    .array(
      z.strictObject({
        id: z.uuid(),
        seq: z.int(),
        state: z.enum(['done', 'undone', 'superseded']),
        action: z.enum(EDIT_ACTIONS),
        subject: z.string().max(LIMITS.nameLength.max),
        patch: patchSchema,
        atRevision: revision,
        ...by,
      }),
    )
    .max(1_000_000),
  steps: z
    .array(
      z.strictObject({
        revision,
        kind: z.enum(['edit', 'undo', 'redo']),
        editId: z.uuid(),
        patch: patchSchema,
        ...by,
      }),
    )
    .max(1_000_000),
});
export type ShotHistory = z.infer<typeof shotHistorySchema>;

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
        /** What was done to it, where that was wanted too. */
        history: part.nullable().default(null),
      }),
    )
    .max(10_000),
  looks: z.array(newKeptLookSchema).max(10_000),
  shelf: z.array(newShelfPieceSchema).max(10_000),
  sets: z.array(newSetSchema).max(10_000).default([]),
});
export type Archive = z.infer<typeof archiveSchema>;
