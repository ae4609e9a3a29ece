import { usePreferences } from '../../session/choices/preferences.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { timelineWords as say } from '../../words/timeline.ts';

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
          {solo === 1 ? say.onlyOneChannelMoves : say.onlySomeChannelsMove(solo)}
        </span>
        <Button onClick={() => session.soloChannel([])}>{say.allMove}</Button>
      </>
    );
  }
  if (!keying) {
    return (
      <span className="narrow truncate border border-signal px-1.5 py-0.5" role="status">
        {say.keyingOffChangesShiftThe}
      </span>
    );
  }
  if (!playing && dropped > 0)
    return <span className="num text-ink-2">{say.lastPlayDroppedDroppedF(dropped)}</span>;
  return null;
}
