import { setCamera } from '@keen-ridge/core/edits/keys';
import type { EditAction } from '@keen-ridge/core/history';
import { LIMITS, type Scene } from '@keen-ridge/core/scene';
import type { CameraChannel } from '@keen-ridge/core/staging';
import { usePreferences } from '../session/choices/preferences.ts';
import { sceneTrial } from '../session/scene-trial.ts';
import type { Session } from '../session/session.ts';
import type { BeginTrial } from '../ui/trial.ts';
import { CHANNEL_WORDS } from './channel-words.ts';

type Values = Partial<Record<CameraChannel, number>>;

/** A scene with camera values at a frame, keyed or shifted as Keying says. */
export function withCamera(scene: Scene, frame: number, values: Values): Scene {
  const kept =
    values.zoom === undefined
      ? values
      : { ...values, zoom: Math.min(LIMITS.zoom.max, Math.max(LIMITS.zoom.min, values.zoom)) };
  return setCamera(scene, kept, { frame, keying: usePreferences.getState().keying });
}

/** What an edit of the camera is called. */
export const cameraAction = (): EditAction =>
  usePreferences.getState().keying ? 'key-camera' : 'shift-camera';

/** Tries values of one channel of the camera at the playhead. */
export const cameraTrial = (session: Session, name: CameraChannel): BeginTrial<number> =>
  sceneTrial(session, cameraAction(), CHANNEL_WORDS[name].name, (scene, value) =>
    withCamera(scene, session.state.frame, { [name]: value }),
  );

/** Keeps a change of the camera as one edit, named after what it did. */
export function commitCamera(session: Session, values: Values): void {
  const { scene, frame } = session.state;
  session.commit(cameraAction(), cameraWords(values), withCamera(scene, frame, values));
}

export const cameraWords = (values: Values): string =>
  (Object.keys(values) as CameraChannel[]).map((name) => CHANNEL_WORDS[name].name).join(', ');
