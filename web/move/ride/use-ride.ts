import type { Point } from '@keen-ridge/core/geometry';
import type { PathOwner } from '@keen-ridge/core/staging';
import { useEffect, useRef } from 'react';
import { create } from 'zustand';
import type { PicturePointer } from '../../picture/picture.tsx';
import type { Session } from '../../session/session.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import type { Gesture } from './gestures.ts';
import { RideRecorder } from './recorder.ts';

/** Whether the next drag in the picture is ridden, and whether one is being. */
export const useRideState = create<{ readonly armed: boolean; readonly riding: boolean }>(() => ({
  armed: false,
  riding: false,
}));

/** What is ridden: the plane that is chosen, or the camera. */
export function rideOwner(session: Session): PathOwner {
  const [plane, other] = session.state.selection;
  return plane && !other ? { on: 'plane', plane } : { on: 'camera' };
}

/** Drags of a hand in the picture while Ride is on: the shot plays from the press to the lift, or to its end. */
export function useRide() {
  const session = useSession();
  const armed = useRideState((state) => state.armed);
  const ride = useRef<{ recorder: RideRecorder; at: Point; start: number; handle: number } | null>(null);
  const end = (keep: boolean) => {
    const under = ride.current;
    if (!under) return;
    cancelAnimationFrame(under.handle);
    ride.current = null;
    useRideState.setState({ armed: false, riding: false });
    if (keep) under.recorder.end();
    else under.recorder.giveUp();
  };
  const stop = useRef(end);
  useEffect(() => {
    stop.current = end;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => event.key === 'Escape' && stop.current(false);
    window.addEventListener('keydown', onKey, true);
    return () => {
      window.removeEventListener('keydown', onKey, true);
      stop.current(false);
      useRideState.setState({ armed: false, riding: false });
    };
  }, []);
  return {
    armed,
    onDown: ({ at }: PicturePointer) => {
      const recorder = new RideRecorder(session, rideOwner(session), at);
      const under = { recorder, at, start: performance.now(), handle: 0 };
      ride.current = under;
      useRideState.setState({ armed: true, riding: true });
      const tick = (now: number) => {
        if (ride.current !== under) return;
        if (!recorder.move(under.at, (now - under.start) / 1000)) {
          end(true);
          return;
        }
        under.handle = requestAnimationFrame(tick);
      };
      under.handle = requestAnimationFrame(tick);
    },
    onMove: ({ at }: PicturePointer) => {
      if (ride.current) ride.current.at = at;
    },
    onUp: () => end(true),
  };
}

/** The simulated pen: replays a recorded gesture as a hand would have made it, from the middle of the frame. */
export function useSimulatedPen(): (gesture: Gesture) => void {
  const session = useSession();
  const { widthPx, heightPx } = useSessionState((state) => state.scene.frame);
  return ({ samples }) => {
    const from = { x: widthPx / 2, y: heightPx / 2 };
    const recorder = new RideRecorder(session, rideOwner(session), from);
    useRideState.setState({ armed: false, riding: true });
    const start = performance.now();
    let next = 1;
    const tick = (now: number) => {
      let going = true;
      for (; next < samples.length && samples[next]!.seconds <= (now - start) / 1000 && going; next++) {
        const { x, y, seconds } = samples[next]!;
        going = recorder.move({ x: from.x + x, y: from.y + y }, seconds);
      }
      if (going && next < samples.length) {
        requestAnimationFrame(tick);
        return;
      }
      useRideState.setState({ riding: false });
      recorder.end();
    };
    requestAnimationFrame(tick);
  };
}
