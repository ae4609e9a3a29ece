import { rockedPose } from '@keen-ridge/core/stage';
import { cameraPoseAt, stageFrameOf } from '@keen-ridge/core/staging';
import { useEffect } from 'react';
import { useSession, useSessionState } from '../session/use-session.ts';

/** Sways the camera of the picture while a rock is on. Ends with the page; leaves nothing behind. */
export function useRock(): void {
  const session = useSession();
  const rock = useSessionState((state) => state.rock);
  useEffect(() => {
    if (!rock) return;
    let start: number | null = null;
    let handle = requestAnimationFrame(function tick(now: number) {
      start ??= now;
      const { shown } = session;
      const pose = cameraPoseAt(shown, session.state.frame);
      session.swayed.setState({
        pose: rockedPose(stageFrameOf(shown), pose, rock, (now - start) / 1000),
      });
      handle = requestAnimationFrame(tick);
    });
    return () => {
      cancelAnimationFrame(handle);
      session.swayed.setState({ pose: null });
    };
  }, [rock, session]);
  useEffect(() => () => session.setRock(null), [session]);
}
