import type { SoundId } from '@keen-ridge/core/scene/sound';
import { useEffect } from 'react';
import { toast } from 'sonner';
import { create } from 'zustand';
import { readSoundFile } from '../../api/sound.ts';
import { usePreferences } from '../choices/preferences.ts';
import type { Session } from '../session.ts';
import { useSession, useSessionState } from '../use-session.ts';
import { SoundFollower } from './sound-follower.ts';
import { WebSpeaker } from './web-speaker.ts';

/** Whether the sound of the open shot can be heard now: it is read and decoded. */
export const useSoundReady = create<{ readonly id: SoundId | null }>(() => ({ id: null }));

/** Lets the sound of the open shot be heard with it, from when it is decoded until the shot is left. */
export function useSound(): void {
  const session = useSession();
  const id = useSessionState((state) => state.scene.sound?.id ?? null);
  useEffect(() => {
    if (id === null) return;
    const gone = new AbortController();
    const context = new AudioContext();
    let end = () => {};
    readSoundFile(id, gone.signal)
      .then((file) => context.decodeAudioData(file))
      .then((recording) => {
        if (gone.signal.aborted) return;
        end = followed(session, new SoundFollower(new WebSpeaker(context, recording)));
        useSoundReady.setState({ id });
      })
      .catch((error: Error) => {
        if (!gone.signal.aborted) toast.error(`The sound cannot be heard here: ${error.message}`);
      });
    return () => {
      gone.abort();
      end();
      useSoundReady.setState({ id: null });
      context.close().catch(() => {});
    };
  }, [session, id]);
}

function followed(session: Session, follower: SoundFollower): () => void {
  const follow = () => {
    const { scene, preview, frame, playing } = session.state;
    const { sound, rate } = preview ?? scene;
    const { playMode, playSpeed } = usePreferences.getState();
    follower.follow({
      sound: sound ?? null,
      rate,
      frame,
      playing,
      speed: playMode === 'every' ? null : playSpeed,
    });
  };
  follow();
  const ends = [session.store.subscribe(follow), usePreferences.subscribe(follow)];
  return () => {
    for (const end of ends) end();
    follower.silence();
  };
}
