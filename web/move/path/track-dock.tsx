import { bakeTrack, editTrack, makeTrack, pathMarks } from '@keen-ridge/core/edits/camera';
import { channelAt, pathPlaceAt, pathRefsOf, trackOf, trackRefOf } from '@keen-ridge/core/staging';
import { setCorner, trackKeys, trackLength } from '@keen-ridge/core/timing/moves';
import { toast } from 'sonner';
import { setPreferences, usePreferences } from '../../session/choices/preferences.ts';
import { useCalmFrame } from '../../session/pace/use-calm.ts';
import { useSession, useShownScene } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Dock } from '../../ui/dock.tsx';
import { formatNumber } from '../../ui/format.ts';
import { moveWords as say } from '../../words/move.ts';
import { withBend } from './path-layer.tsx';
import { ownerWord, usePathOwner } from './use-path-owner.ts';

/** The path: whether it is drawn, whether a track stands for its channels, and its bends. */
export function TrackDock() {
  const session = useSession();
  const scene = useShownScene();
  const frame = useCalmFrame();
  const showPath = usePreferences((state) => state.showPath);
  const owner = usePathOwner();
  const word = ownerWord(scene, owner);
  const track = trackOf(scene, trackRefOf(owner));
  const keyed = pathMarks(scene, owner).length;
  const turnOn = () => {
    const made = makeTrack(session.state.scene, owner);
    if (made) {
      session.selectKeys([]);
      session.commit('make-track', word, made);
    } else toast(say.aLockedChannelCannotBecome);
  };
  const turnOff = () => {
    const baked = bakeTrack(session.state.scene, owner);
    if (!baked) return;
    session.selectKeys([]);
    session.commit('bake-track', word, baked);
    const keys = pathRefsOf(owner).reduce((sum, ref) => sum + (channelAt(baked, ref)?.keys.length ?? 0), 0);
    toast(say.keysKeysOnThreeChannels(keys));
  };
  const keyHere = track ? trackKeys(track).find((key) => key.frame === frame) : undefined;
  return (
    <Dock id="track" label={say.track} on={track !== null}>
      <p className="mb-2">
        {track
          ? `${word === 'the camera' ? 'The camera' : word} follows a track of ${formatNumber(trackLength(track))} px, travelled by its length.`
          : keyed < 2
            ? say.keyWordAtTwoFrames(word)
            : say.threeChannelsMoveWordAs(word)}
      </p>
      <div className="flex flex-wrap gap-1">
        {track ? (
          <>
            <Button
              onClick={() => {
                const bent = withBend(
                  session.state.scene,
                  owner,
                  pathPlaceAt(session.state.scene, owner, frame),
                );
                if (bent) session.commit('bend-track', word, bent);
              }}
            >
              {say.bendHere}
            </Button>
            <Button
              disabled={!keyHere}
              on={keyHere !== undefined && !keyHere.smooth}
              title={say.theKeyAtThePlayhead}
              onClick={() =>
                session.commit(
                  'bend-track',
                  word,
                  editTrack(session.state.scene, owner, (t) =>
                    setCorner(
                      t,
                      t.points.findIndex((p) => p.kind === 'key' && p.frame === frame),
                      !keyHere?.smooth,
                    ),
                  ),
                )
              }
            >
              {say.corner}
            </Button>
            <Button onClick={turnOff}>{say.backToChannels}</Button>
          </>
        ) : (
          <Button disabled={keyed < 2} onClick={turnOn}>
            {say.makeItATrack}
          </Button>
        )}
        <Button on={showPath} onClick={() => setPreferences({ showPath: !showPath })}>
          {say.drawThePath}
        </Button>
      </div>
      <p className="mt-3 text-[12px] text-ink-2">{say.doubleClickThePathTo}</p>
    </Dock>
  );
}
