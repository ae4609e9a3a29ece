import { z } from 'zod';

/** Who edits. Edits that were made before there were authors have an empty id: they are everybody's to undo. */
export const authorSchema = z.strictObject({ id: z.string().max(64), name: z.string().max(80) });
export type Author = z.infer<typeof authorSchema>;
export const NOBODY: Author = { id: '', name: '' };
