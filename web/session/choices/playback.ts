import type { FrameRange } from '@keen-ridge/core/staging/frame';
import { rationalToNumber } from '@keen-ridge/core/units';
import { useEffect } from 'react';
import type { Session } from '../session.ts';
import { useSession, useSessionState } from '../use-session.ts';
import { usePreferences } from './preferences.ts';
import { playRange, shotViewOf } from './shot-view.ts';

/**
 * The frame that shows after so many steps of play from `first`, or null once it has ended: round and round where it
 * loops, there and back where it turns, each end shown once.
 */
export function frameOfStep(
  { start, end }: FrameRange,
  first: number,
  steps: number,
  { loop, pingPong }: { readonly loop: boolean; readonly pingPong: boolean },
): number | null {
  const length = end - start;
  const at = first - start + steps;
  if (!pingPong) return at < length || loop ? start + (at % length) : null;
  if (length === 1) return loop || steps === 0 ? start : null;
  const turn = 2 * (length - 1);
  if (!loop && at > turn) return null;
  const phase = at % turn;
  return start + (phase < length ? phase : turn - phase);
}

/** Moves the playhead while the shot plays: by the clock, so that it never drifts; or frame by frame as they are drawn. */
export function usePlayback(): void {
  const session = useSession();
  const playing = useSessionState((state) => state.playing);
  useEffect(() => {
    if (!playing) return;
    return usePreferences.getState().playMode === 'every' ? playEvery(session) : playInTime(session);
  }, [playing, session]);
}

function startOf(session: Session): { range: FrameRange; first: number } {
  const { scene, frame } = session.state;
  const range = playRange(shotViewOf(session.shot.id).range, scene.lengthFrames);
  const first = frame >= range.start && frame < range.end - 1 ? frame : range.start;
  return { range, first };
}

function playInTime(session: Session): () => void {
  const { range, first } = startOf(session);
  const { playSpeed } = usePreferences.getState();
  const framesPerSecond = rationalToNumber(session.state.scene.rate) * playSpeed;
  let start: number | null = null;
  let last = 0;
  let dropped = 0;
  let handle = requestAnimationFrame(function tick(now: number) {
    start ??= now;
    const steps = Math.floor(((now - start) / 1000) * framesPerSecond);
    if (steps > last + 1) dropped += steps - last - 1;
    last = steps;
    const frame = frameOfStep(range, first, steps, usePreferences.getState());
    if (frame === null) {
      session.goTo(range.end - 1);
      session.setPlaying(false, dropped);
      return;
    }
    if (frame !== session.state.frame) session.goTo(frame);
    handle = requestAnimationFrame(tick);
  });
  return () => {
    cancelAnimationFrame(handle);
    session.setPlaying(false, dropped);
  };
}

/** Longest wait for a picture that is not coming, such as where no view shows the camera. */
const GIVE_UP_MS = 4000;

function playEvery(session: Session): () => void {
  const { range, first } = startOf(session);
  let steps = 0;
  let since = performance.now();
  session.goTo(first);
  let handle = requestAnimationFrame(function tick(now: number) {
    const drawn = session.drawn.getState().frame === session.state.frame;
    if (drawn || now - since > GIVE_UP_MS) {
      steps += 1;
      since = now;
      const frame = frameOfStep(range, first, steps, usePreferences.getState());
      if (frame === null) {
        session.setPlaying(false, 0);
        return;
      }
      session.goTo(frame);
    }
    handle = requestAnimationFrame(tick);
  });
  return () => {
    cancelAnimationFrame(handle);
    session.setPlaying(false, 0);
  };
}
