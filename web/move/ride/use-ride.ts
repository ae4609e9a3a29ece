import type { Point } from '@keen-ridge/core/geometry';
import type { PathOwner } from '@keen-ridge/core/staging';
import { useEffect, useRef } from 'react';
import { create } from 'zustand';
import type { PictureDrag, PicturePress } from '../../picture/picture.tsx';
import type { Session } from '../../session/session.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { underWay } from '../../ui/pointer/drag.ts';
import type { PenGesture } from './pen-gestures.ts';
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

interface Ride {
  readonly recorder: RideRecorder;
  at: Point;
  handle: number;
}

/** Drags of a hand in the picture while Ride is on: the shot plays from the press to the lift, or to its end. */
export function useRide(): { readonly armed: boolean; readonly grasp: (press: PicturePress) => PictureDrag } {
  const session = useSession();
  const armed = useRideState((state) => state.armed);
  const under = useRef<Ride | null>(null);
  const end = (keep: boolean) => {
    const ridden = under.current;
    if (!ridden) return;
    under.current = null;
    cancelAnimationFrame(ridden.handle);
    useRideState.setState({ armed: false, riding: false });
    if (keep) ridden.recorder.end();
    else ridden.recorder.giveUp();
  };
  useEffect(() => () => useRideState.setState({ armed: false, riding: false }), []);
  return {
    armed,
    grasp: ({ at }) => {
      const ridden: Ride = { recorder: new RideRecorder(session, rideOwner(session), at), at, handle: 0 };
      const start = performance.now();
      under.current = ridden;
      useRideState.setState({ armed: true, riding: true });
      const tick = (now: number) => {
        if (under.current !== ridden) return;
        if (ridden.recorder.move(ridden.at, (now - start) / 1000))
          ridden.handle = requestAnimationFrame(tick);
        else end(true);
      };
      ridden.handle = requestAnimationFrame(tick);
      return {
        move: (to) => {
          ridden.at = to.at;
        },
        keep: () => end(true),
        drop: () => end(false),
      };
    },
  };
}

/** The simulated pen: replays a recorded gesture as a hand would have made it, from the middle of the frame. */
export function useSimulatedPen(): (gesture: PenGesture) => void {
  const session = useSession();
  const { widthPx, heightPx } = useSessionState((state) => state.scene.frame);
  const stop = useRef<() => void>(() => {});
  useEffect(() => () => stop.current(), []);
  return ({ samples }) => {
    stop.current();
    const from = { x: widthPx / 2, y: heightPx / 2 };
    const recorder = new RideRecorder(session, rideOwner(session), from);
    useRideState.setState({ armed: false, riding: true });
    const start = performance.now();
    let next = 1;
    let handle = 0;
    const lift = () => {
      cancelAnimationFrame(handle);
      stop.current = () => {};
      useRideState.setState({ riding: false });
    };
    const done = underWay(() => {
      lift();
      recorder.giveUp();
    });
    stop.current = () => {
      done();
      lift();
      recorder.giveUp();
    };
    const tick = (now: number) => {
      let going = true;
      for (; next < samples.length && samples[next]!.seconds <= (now - start) / 1000 && going; next++) {
        const { x, y, seconds } = samples[next]!;
        going = recorder.move({ x: from.x + x, y: from.y + y }, seconds);
      }
      if (going && next < samples.length) {
        handle = requestAnimationFrame(tick);
        return;
      }
      done();
      lift();
      recorder.end();
    };
    handle = requestAnimationFrame(tick);
  };
}
