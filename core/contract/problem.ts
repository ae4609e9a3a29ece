import { z } from 'zod';
import { authorSchema, EDIT_ACTIONS } from '../history/index.ts';

export const PROBLEM_CODES = [
  'not-found',
  'bad-request',
  'too-large',
  'foreign-host',
  'foreign-origin',
  'signed-out',
  'not-known',
  'not-allowed',
  'too-often',
  'conflict',
  'forgotten',
  'edit-refused',
  'unreadable-art',
  'nothing-to-undo',
  'film-tool-missing',
  'not-ready',
  'unstorable-text',
  'disk-full',
  'busy',
  'unavailable',
  'internal',
] as const;

const conflictBySchema = z.object({
  author: authorSchema,
  action: z.enum(EDIT_ACTIONS),
  subject: z.string(),
  at: z.string(),
});
export type ConflictBy = z.infer<typeof conflictBySchema>;

/** Problem details (RFC 9457) with our own closed set of codes beside the type. */
export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  code: z.enum(PROBLEM_CODES),
  /** On `conflict`: the fields that are no longer as the edit found them, and the last step that touched them. */
  conflict: z.object({ paths: z.array(z.string()), by: conflictBySchema.nullable() }).optional(),
});
export type Problem = z.infer<typeof problemSchema>;
export type ProblemCode = Problem['code'];
