import { laySound } from '@keen-ridge/core/edits/shot';
import type { Sound } from '@keen-ridge/core/scene/sound';
import type { Session } from '../session/session.ts';

/** Lays a sound that was brought in under the shot: where and as loud as the one before it, from the first frame without one. */
export function layUnder(session: Session, taken: Pick<Sound, 'id' | 'name' | 'durationSeconds'>): void {
  const { scene } = session.state;
  const { startFrame = 1, volume = 1 } = scene.sound ?? {};
  session.commit('set-sound', taken.name, laySound(scene, { ...taken, startFrame, volume, muted: false }));
}
