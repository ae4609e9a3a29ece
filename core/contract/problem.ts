import { z } from 'zod';

export const PROBLEM_CODES = [
  'not-found',
  'bad-request',
  'too-large',
  'foreign-host',
  'foreign-origin',
  'stale-revision',
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

/** Problem details (RFC 9457) with our own closed set of codes beside the type. */
export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.int(),
  detail: z.string(),
  code: z.enum(PROBLEM_CODES),
  /** On `stale-revision`: where the server stands. */
  revision: z.int().optional(),
});
export type Problem = z.infer<typeof problemSchema>;
export type ProblemCode = Problem['code'];
