import type { Scene } from '@keen-ridge/core/scene';
import { useEffect, useState } from 'react';
import { useSession } from './use-session.ts';

/** Numbers change no more often than this while something is dragged: nobody reads faster, and the picture needs the time. */
const CALM_MS = 100;

/** The scene as it is shown, at once when it is kept, and a few times a second while something is tried. */
export function useCalmScene(): Scene {
  const session = useSession();
  const [scene, setScene] = useState(session.shown);
  useEffect(() => {
    let last = 0;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const show = () => {
      last = performance.now();
      timer = undefined;
      setScene(session.shown);
    };
    show();
    const end = session.store.subscribe((state, before) => {
      if ((state.preview ?? state.scene) === (before.preview ?? before.scene)) return;
      const wait = state.preview ? last + CALM_MS - performance.now() : 0;
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
  return scene;
}
