import { z } from 'zod';
import { EDIT_ACTIONS, LIMITS, patchSchema, sceneSchema } from '../document/index.ts';

/** An edit as the history keeps it; `subject` is what it was done to, as the artist named it. */
export const historyEntrySchema = z.strictObject({
  action: z.enum(EDIT_ACTIONS),
  subject: z.string().max(LIMITS.nameLength.max),
  patch: patchSchema,
  inverse: patchSchema,
});
export type HistoryEntry = z.infer<typeof historyEntrySchema>;

export const shotSchema = z.object({
  id: z.uuid(),
  name: z.string(),
  productionId: z.uuid(),
  productionName: z.string(),
  revision: z.int(),
  scene: sceneSchema,
  /** Oldest first; the last is the next to undo. */
  undo: z.array(historyEntrySchema),
  /** The last is the next to redo. */
  redo: z.array(historyEntrySchema),
});
export type Shot = z.infer<typeof shotSchema>;

/** Bytes of the largest request that is no file: an edit of that size keeps the server busy for some two seconds. */
export const LARGEST_BODY_BYTES = 12 * 2 ** 20;

export const opSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('edit'), ...historyEntrySchema.omit({ inverse: true }).shape }),
  z.strictObject({ kind: z.literal('undo') }),
  z.strictObject({ kind: z.literal('redo') }),
]);
export type Op = z.infer<typeof opSchema>;

/** `opId` is the client's own: sending the same op twice, after a lost answer, does it once. */
export const opRequestSchema = z.strictObject({ opId: z.uuid(), revision: z.int(), op: opSchema });
export type OpRequest = z.infer<typeof opRequestSchema>;
export const revisionSchema = z.object({ revision: z.int() });
