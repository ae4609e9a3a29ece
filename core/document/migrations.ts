import { fail, ok, type Result } from '../units/index.ts';
import type { SceneFault } from './read-scene.ts';
import { SCENE_VERSION } from './scene.ts';

/** One step from version `from` to `from + 1`. Written once, never changed after it has shipped. */
export interface Migration {
  readonly from: number;
  readonly name: string;
  readonly up: (scene: Record<string, unknown>) => Record<string, unknown>;
}

/** In order, without gaps, ending at the current version. Version 1 is the first, so there is none yet. */
export const MIGRATIONS: readonly Migration[] = [];

/** Brings a scene of any known version to the newest one that `migrations` lead to. */
export function migrate(
  data: unknown,
  migrations: readonly Migration[],
  newest: number = SCENE_VERSION,
): Result<unknown, SceneFault> {
  if (typeof data !== 'object' || data === null || Array.isArray(data)) {
    return fail({ code: 'not-a-scene', detail: 'the whole: is not an object' });
  }
  let scene: Record<string, unknown> = { ...data };
  let version = scene.version;
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1) {
    return fail({
      code: 'not-a-scene',
      detail: `version: ${JSON.stringify(version)} is not a whole number from 1`,
    });
  }
  if (version > newest) return fail({ code: 'newer-than-program', version, newestKnown: newest });
  for (; version < newest; version++) {
    const step = migrations.find((migration) => migration.from === version);
    if (!step) throw new Error(`No migration from scene version ${version}`);
    scene = { ...step.up(scene), version: version + 1 };
  }
  return ok(scene);
}
