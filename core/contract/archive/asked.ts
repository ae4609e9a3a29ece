import { z } from 'zod';
import { LIMITS } from '../../scene/index.ts';

/** Whether the histories of its shots are wanted too. */
export const archiveWishSchema = z.object({ history: z.stringbool().default(false) });
export const archiveQuerySchema = z.object({ name: z.string().min(1).max(LIMITS.nameLength.max) });
/** A production that came out of an archive, and a sentence for each plane that had to be left out. */
export const openedArchiveSchema = z.object({ id: z.uuid(), name: z.string(), leftOut: z.array(z.string()) });
export type OpenedArchive = z.infer<typeof openedArchiveSchema>;

/** An archive may be far larger than anything that is brought in. */
export const LARGEST_ARCHIVE_BYTES = 256 * 2 ** 30;
