import type { Scene } from '../../scene/index.ts';
import type { Sound } from '../../scene/sound/index.ts';

/** Lays a sound under the shot, in place of the one that was there; none takes it away. */
export const laySound = (scene: Scene, sound: Sound | null): Scene => ({ ...scene, sound });

/** Where a sound begins, how loud it is, whether it is heard. */
export function changeSound(
  scene: Scene,
  change: Partial<Pick<Sound, 'startFrame' | 'volume' | 'muted'>>,
): Scene {
  if (!scene.sound) return scene;
  const { startFrame, volume } = { ...scene.sound, ...change };
  const limited = {
    startFrame: Math.max(-1_000_000, Math.min(1_000_000, Math.round(startFrame))),
    volume: Math.max(0, Math.min(1, volume)),
  };
  return { ...scene, sound: { ...scene.sound, ...change, ...limited } };
}
