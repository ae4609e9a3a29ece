import { z } from 'zod';
import { fail, ok, type Result } from '../units/index.ts';
import { MIGRATIONS, migrate } from './migrations.ts';
import type { Scene } from './scene.ts';
import { soundSceneSchema } from './sound-scene.ts';

export type SceneFault =
  | { readonly code: 'not-a-scene'; readonly detail: string }
  | { readonly code: 'newer-than-program'; readonly version: number; readonly newestKnown: number };

/** Validates foreign data as a scene, migrating older versions. The detail names the first offending field. */
export function readScene(data: unknown): Result<Scene, SceneFault> {
  const migrated = migrate(data, MIGRATIONS);
  if (!migrated.ok) return migrated;
  const parsed = soundSceneSchema.safeParse(migrated.value);
  return parsed.success ? ok(parsed.data) : fail({ code: 'not-a-scene', detail: firstFault(parsed.error) });
}

/** `planes.p3.opacity: Too big: expected number to be <=1`. */
export function firstFault(error: z.ZodError, within: readonly string[] = []): string {
  const issue = error.issues[0];
  if (!issue) return z.prettifyError(error);
  // What is wrong with the name of a record stands one deeper.
  const { message } = issue.code === 'invalid_key' ? (issue.issues[0] ?? issue) : issue;
  return `${[...within, ...issue.path].join('.') || 'the whole'}: ${message}`;
}
