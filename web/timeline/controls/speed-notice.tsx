import { usePreferences } from '../../session/choices/preferences.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';

/** What is not as usual about the strip: Keying that is off, channels that alone move, frames that were dropped. */
export function SpeedNotice() {
  const session = useSession();
  const keying = usePreferences((state) => state.keying);
  const solo = useSessionState((state) => state.soloChannels.length);
  const dropped = useSessionState((state) => state.dropped);
  const playing = useSessionState((state) => state.playing);
  if (solo > 0) {
    return (
      <>
        <span className="narrow text-ink-2">
          Only {solo === 1 ? 'one channel moves' : `${solo} channels move`}.
        </span>
        <Button onClick={() => session.soloChannel([])}>All move</Button>
      </>
    );
  }
  if (!keying) {
    return (
      <span className="narrow truncate border border-signal px-1.5 py-0.5" role="status">
        Keying off: changes shift the whole move
      </span>
    );
  }
  if (!playing && dropped > 0) return <span className="num text-ink-2">last play dropped {dropped} f</span>;
  return null;
}
