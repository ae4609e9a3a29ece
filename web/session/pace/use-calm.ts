import type { Scene } from '@keen-ridge/core/scene';
import { useEffect, useState } from 'react';
import type { Session, SessionState } from '../session.ts';
import { useSession } from '../use-session.ts';

/** Numbers change no more often than this while something moves: nobody reads faster, and the picture needs the time. */
const CALM_MS = { tried: 100, playing: 250 } as const;

/** What `pick` finds: at once where all rests, and a few times a second while it is restless. */
function useCalm<T>(
  pick: (session: Session) => T,
  source: (state: SessionState) => T,
  restless: (state: SessionState) => boolean,
  calmMs: number,
): T {
  const session = useSession();
  const [value, setValue] = useState(() => pick(session));
  // biome-ignore lint/correctness/useExhaustiveDependencies: the three ways to look are constants of this file
  useEffect(() => {
    let last = 0;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const show = () => {
      last = performance.now();
      timer = undefined;
      setValue(pick(session));
    };
    show();
    const end = session.store.subscribe((state, before) => {
      const rests = !restless(state);
      if (source(state) === source(before) && rests === !restless(before)) return;
      const wait = rests ? 0 : last + calmMs - performance.now();
      if (wait <= 0) {
        clearTimeout(timer);
        show();
      } else timer ??= setTimeout(show, wait);
    });
    return () => {
      clearTimeout(timer);
      end();
    };
  }, [session]);
  return value;
}

const shownScene = ({ shown }: Session): Scene => shown;
const sceneOf = ({ preview, scene }: SessionState): Scene => preview ?? scene;
const isTried = ({ preview }: SessionState): boolean => preview !== null;
/** The scene as it is shown, at once when it is kept, and a few times a second while something is tried. */
export const useCalmScene = (): Scene => useCalm(shownScene, sceneOf, isTried, CALM_MS.tried);

const shownFrame = ({ state }: Session): number => state.frame;
const frameOf = ({ frame }: SessionState): number => frame;
const isPlaying = ({ playing }: SessionState): boolean => playing;
/** The playhead for numbers that are read: at once where it rests, and a few times a second while the shot plays. */
export const useCalmFrame = (): number => useCalm(shownFrame, frameOf, isPlaying, CALM_MS.playing);
