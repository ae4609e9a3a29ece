import { z } from 'zod';
import { authorSchema, historyEntrySchema, opSchema, revisionSchema } from '../history/index.ts';
import { soundSceneSchema } from '../staging/check/index.ts';
import { roleSchema } from './people/index.ts';

export const shotSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  productionId: z.uuid(),
  productionName: z.string(),
  /** What the artist who asks may do; everything, on a server that knows nobody. */
  role: roleSchema.default('run'),
  revision: z.int(),
  scene: soundSceneSchema,
  /** What the author who asks may take back. Oldest first; the last is the next to undo. */
  undo: z.array(historyEntrySchema),
  /** The last is the next to redo. */
  redo: z.array(historyEntrySchema),
});
export type Shot = z.infer<typeof shotSchema>;
export const shotQuerySchema = z.object({ author: z.string().max(64).default('') });

/** Bytes of the largest request that is no file: an edit of that size keeps the server busy for some two seconds. */
export const LARGEST_BODY_BYTES = 12 * 2 ** 20;

/**
 * `opId` is the client's own: sending the same op twice, after a lost answer, does it once. `revision` is the last one
 * that the window knows of.
 */
export const opRequestSchema = z.strictObject({
  opId: z.uuid(),
  revision: z.int(),
  author: authorSchema,
  op: opSchema,
});
export type OpRequest = z.infer<typeof opRequestSchema>;

/** The steps after a revision, oldest first, without a gap. */
export const revisionsSchema = z.object({ revisions: z.array(revisionSchema) });
/** The newest steps of a shot, oldest first and without a gap, and the scene that they led to. */
export const historySchema = z.object({ scene: soundSceneSchema, revisions: z.array(revisionSchema) });
export type History = z.infer<typeof historySchema>;
export const historyQuerySchema = z.object({ newest: z.coerce.number().int().min(1).max(500) });
export const revisionsQuerySchema = z.object({ after: z.coerce.number().int().min(0) });
