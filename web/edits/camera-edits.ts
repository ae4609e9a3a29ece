import { setCamera } from '@keen-ridge/core/edits/keys';
import { LIMITS, type Scene } from '@keen-ridge/core/scene';
import type { CameraChannel } from '@keen-ridge/core/staging';
import { usePreferences } from '../session/choices/preferences.ts';
import type { Session } from '../session/session.ts';
import { CHANNEL_WORDS } from './channel-words.ts';

type Values = Partial<Record<CameraChannel, number>>;

/** The scene with camera values at the playhead, keyed or shifted as Keying says. */
export function withCamera(session: Session, values: Values): Scene {
  const { scene, frame } = session.state;
  const kept =
    values.zoom === undefined
      ? values
      : { ...values, zoom: Math.min(LIMITS.zoom.max, Math.max(LIMITS.zoom.min, values.zoom)) };
  return setCamera(scene, kept, { frame, keying: usePreferences.getState().keying });
}

/** Keeps a change of the camera as one edit, named after what it did. */
export function commitCamera(session: Session, values: Values): void {
  const names = (Object.keys(values) as CameraChannel[]).map((name) => CHANNEL_WORDS[name].name).join(', ');
  session.commit(
    usePreferences.getState().keying ? 'key-camera' : 'shift-camera',
    names,
    withCamera(session, values),
  );
}
