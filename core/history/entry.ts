import { z } from 'zod';
import { LIMITS } from '../scene/index.ts';
import { EDIT_ACTIONS } from './actions.ts';
import { authorSchema, NOBODY } from './author.ts';
import { type Patch, patchSchema } from './patch.ts';

const subject = z.string().max(LIMITS.nameLength.max);

/** An edit as the history keeps it; `subject` is what it was done to, as the artist named it. */
export const historyEntrySchema = z.strictObject({
  id: z.uuid(),
  action: z.enum(EDIT_ACTIONS),
  subject,
  patch: patchSchema,
  author: authorSchema,
  /** When it was made, ISO 8601. */
  at: z.string(),
});
export type HistoryEntry = z.infer<typeof historyEntrySchema>;

/** What a window asks for. An undo or redo names the edit that it means. */
export const opSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('edit'), action: z.enum(EDIT_ACTIONS), subject, patch: patchSchema }),
  z.strictObject({ kind: z.literal('undo'), edit: z.uuid() }),
  z.strictObject({ kind: z.literal('redo'), edit: z.uuid() }),
]);
export type Op = z.infer<typeof opSchema>;

/** One step of a shot from a revision to the next, by whom: an edit that was made, taken back or made again. */
export const revisionSchema = z.strictObject({
  /** The one that it made. */
  revision: z.int(),
  /** The id of the op that asked for it; that of an edit is the edit's own. */
  opId: z.uuid(),
  kind: z.enum(['edit', 'undo', 'redo']),
  /** The edit, with who did this to it and when. */
  entry: historyEntrySchema,
  /** What it did to the scene before it; null where that is what the entry says. */
  patch: patchSchema.nullable(),
});
export type Revision = z.infer<typeof revisionSchema>;

export const patchOfStep = ({ patch, entry }: Revision): Patch => patch ?? entry.patch;

/** Edits that one author may take back and make again: the last of each is the next. */
export interface Stacks {
  readonly undo: readonly HistoryEntry[];
  readonly redo: readonly HistoryEntry[];
}

/** The stacks after a step, done by their owner or by somebody else. */
export function stacksAfter(
  { undo, redo }: Stacks,
  kind: Op['kind'],
  entry: HistoryEntry,
  own: boolean,
): Stacks {
  const without = (stack: readonly HistoryEntry[]) => stack.filter(({ id }) => id !== entry.id);
  // A new edit gives up what its author has undone, and what is nobody's.
  if (kind === 'edit')
    return own
      ? { undo: [...undo, entry], redo: [] }
      : { undo, redo: redo.filter(({ author }) => author.id !== NOBODY.id) };
  const rest = { undo: without(undo), redo: without(redo) };
  if (!own) return rest;
  return kind === 'undo'
    ? { ...rest, redo: [...rest.redo, entry] }
    : { ...rest, undo: [...rest.undo, entry] };
}
