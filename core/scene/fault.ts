import { z } from 'zod';

export type SceneFault =
  | { readonly code: 'not-a-scene'; readonly detail: string }
  | { readonly code: 'newer-than-program'; readonly version: number; readonly newestKnown: number };

/** `planes.p3.opacity: Too big: expected number to be <=1`. */
export function firstFault(error: z.ZodError, within: readonly string[] = []): string {
  const issue = error.issues[0];
  if (!issue) return z.prettifyError(error);
  // What is wrong with the name of a record stands one deeper.
  const { message } = issue.code === 'invalid_key' ? (issue.issues[0] ?? issue) : issue;
  return `${[...within, ...issue.path].join('.') || 'the whole'}: ${message}`;
}
