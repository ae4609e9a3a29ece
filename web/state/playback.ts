import { rationalToNumber } from '@keen-ridge/core/units';
import { useEffect } from 'react';
import { usePreferences } from './preferences.ts';
import { useSession, useSessionState } from './use-session.ts';

/** Moves the playhead in real time while the shot plays: sampled from the clock, so it never drifts. */
export function usePlayback(): void {
  const session = useSession();
  const playing = useSessionState((state) => state.playing);
  useEffect(() => {
    if (!playing) return;
    const { scene, frame: from } = session.state;
    const first = from >= scene.lengthFrames ? 1 : from;
    const framesPerSecond = rationalToNumber(scene.rate);
    let start: number | null = null;
    let last = 0;
    let dropped = 0;
    let handle = requestAnimationFrame(function tick(now: number) {
      start ??= now;
      const steps = Math.floor(((now - start) / 1000) * framesPerSecond);
      if (steps > last + 1) dropped += steps - last - 1;
      last = steps;
      const { lengthFrames } = session.state.scene;
      const frame = first + steps;
      if (frame > lengthFrames && !usePreferences.getState().loop) {
        session.goTo(lengthFrames);
        session.setPlaying(false, dropped);
        return;
      }
      const shown = ((frame - 1) % lengthFrames) + 1;
      if (shown !== session.state.frame) session.goTo(shown);
      handle = requestAnimationFrame(tick);
    });
    return () => {
      cancelAnimationFrame(handle);
      session.setPlaying(false, dropped);
    };
  }, [playing, session]);
}
