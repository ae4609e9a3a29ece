import { firstFault, MIGRATIONS, migrate, type Scene, type SceneFault } from '../../scene/index.ts';
import { fail, ok, type Result } from '../../units/index.ts';
import { soundSceneSchema } from './sound-scene.ts';

/** Validates foreign data as a scene, migrating older versions. The detail names the first offending field. */
export function readScene(data: unknown): Result<Scene, SceneFault> {
  const migrated = migrate(data, MIGRATIONS);
  if (!migrated.ok) return migrated;
  const parsed = soundSceneSchema.safeParse(migrated.value);
  return parsed.success ? ok(parsed.data) : fail({ code: 'not-a-scene', detail: firstFault(parsed.error) });
}
