import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { useSession, useSessionState } from '../use-session.ts';

/**
 * The playhead where it rests: while the shot plays it stays where play began, so that what only a still frame needs is
 * not drawn with each. `follows` makes it go along after all.
 */
export function useRestingFrame(follows = false): number {
  const session = useSession();
  const frame = useSessionState((state) => (state.playing && !follows ? null : state.frame));
  const [last, setLast] = useState(session.state.frame);
  if (frame !== null && frame !== last) setLast(frame);
  return frame ?? last;
}

/** Writes the playhead straight to the page, whenever it moves and whenever the caller is drawn: no component is drawn for it. */
export function useEachFrame(write: (frame: number) => void): void {
  const session = useSession();
  const latest = useRef(write);
  useLayoutEffect(() => {
    latest.current = write;
    write(session.state.frame);
  });
  useEffect(
    () =>
      session.store.subscribe((state, before) => {
        if (state.frame !== before.frame) latest.current(state.frame);
      }),
    [session],
  );
}
