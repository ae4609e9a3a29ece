import { z } from 'zod';

export const HANDOFF_KINDS = ['png-zip', 'webm'] as const;
export type HandoffKind = (typeof HANDOFF_KINDS)[number];

/** What is to leave: frames firstFrame – lastFrame, both included, as people count them. */
export const handoffRequestSchema = z
  .strictObject({ kind: z.enum(HANDOFF_KINDS), firstFrame: z.int().min(1), lastFrame: z.int().min(1) })
  .refine((r) => r.lastFrame >= r.firstFrame, {
    message: 'the last frame lies before the first',
    path: ['lastFrame'],
  });
export type HandoffRequest = z.infer<typeof handoffRequestSchema>;

export const handoffStateSchema = z.discriminatedUnion('state', [
  z.object({ state: z.literal('queued'), total: z.int() }),
  z.object({ state: z.literal('running'), done: z.int(), total: z.int() }),
  z.object({
    state: z.literal('done'),
    total: z.int(),
    fileName: z.string(),
    bytes: z.int(),
    seconds: z.number(),
  }),
  z.object({ state: z.literal('failed'), reason: z.string() }),
  z.object({ state: z.literal('cancelled') }),
]);
export type HandoffState = z.infer<typeof handoffStateSchema>;

export const handoffSchema = z.object({
  id: z.uuid(),
  request: handoffRequestSchema,
  at: z.string(),
  progress: handoffStateSchema,
});
export type Handoff = z.infer<typeof handoffSchema>;
export const handoffListSchema = z.object({ handoffs: z.array(handoffSchema), filmReady: z.boolean() });
