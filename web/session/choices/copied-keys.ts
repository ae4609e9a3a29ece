import type { CopiedKeys } from '@keen-ridge/core/edits/keys';
import { easeSchema, planeIdSchema } from '@keen-ridge/core/scene';
import { CAMERA_CHANNELS, PLANE_CHANNELS } from '@keen-ridge/core/staging';
import { z } from 'zod';
import { parseOrNull } from '../../api/client.ts';
import { readStored, store } from '../../api/storage/browser-storage.ts';

const copiedSchema = z.object({
  channels: z.array(
    z.object({
      on: z.enum(['camera', 'plane']),
      name: z.enum([...CAMERA_CHANNELS, ...PLANE_CHANNELS]),
      plane: planeIdSchema.nullable(),
      keys: z.array(
        z.object({
          frame: z.int(),
          value: z.number(),
          ease: easeSchema,
          follows: z.string().optional(),
        }),
      ),
    }),
  ),
});
const KEY = 'keen-ridge/copied-keys';

/** Keys that were copied wait in the browser, so that they can be pasted into another shot. */
export const storeCopiedKeys = (copied: CopiedKeys): boolean => store(KEY, JSON.stringify(copied));

export function readCopiedKeys(): CopiedKeys | null {
  const read = copiedSchema.safeParse(parseOrNull(readStored(KEY) ?? ''));
  return read.success ? read.data : null;
}
