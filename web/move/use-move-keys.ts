import { keyAsItIs } from '@keen-ridge/core/edits/keys';
import { setMarker } from '@keen-ridge/core/edits/shot';
import { markersOf } from '@keen-ridge/core/scene/records';
import {
  CAMERA_CHANNELS,
  type ChannelRef,
  channelAt,
  channelId,
  keyedChannels,
} from '@keen-ridge/core/staging';
import { useHotkeys } from 'react-hotkeys-hook';
import { playRange, setShotView, shotViewOf } from '../session/choices/shot-view.ts';
import { useSession } from '../session/use-session.ts';
import { copyChosen, duplicateChosen, pasteCopied } from '../timeline/key-actions.ts';

/** The keyboard of the Move step, beside what works everywhere in a shot. */
export function useMoveKeys(): void {
  const session = useSession();
  const options = { preventDefault: true };
  const { id } = session.shot;
  const range = () => playRange(shotViewOf(id).range, session.state.scene.lengthFrames);
  useHotkeys('mod+c', () => copyChosen(session), options);
  useHotkeys('mod+v', () => pasteCopied(session), options);
  useHotkeys('mod+d', () => duplicateChosen(session), options);
  useHotkeys(
    'mod+a',
    () => {
      const { scene } = session.state;
      const keys = keyedChannels(scene).flatMap((ref) =>
        (channelAt(scene, ref)?.keys ?? []).map(({ frame }) => ({ channel: channelId(ref), frame })),
      );
      session.selectKeys(keys);
    },
    options,
  );
  useHotkeys(
    'i',
    () =>
      setShotView(id, { range: { start: Math.min(session.state.frame, range().end - 1), end: range().end } }),
    options,
  );
  useHotkeys(
    'o',
    () =>
      setShotView(id, {
        range: { start: Math.min(range().start, session.state.frame), end: session.state.frame + 1 },
      }),
    options,
  );
  useHotkeys('shift+i, shift+o', () => setShotView(id, { range: null }), options);
  useHotkeys(
    'm',
    () => {
      const { scene, frame } = session.state;
      if (markersOf(scene).some((marker) => marker.frame === frame)) return;
      session.commit('set-marker', `${frame}`, setMarker(scene, frame, ''));
    },
    options,
  );
  useHotkeys(
    'k',
    () => {
      const { scene, frame } = session.state;
      const refs = (['track', ...CAMERA_CHANNELS] as const).map(
        (name): ChannelRef => ({ on: 'camera', name }),
      );
      const keyed = refs.filter((ref) => (channelAt(scene, ref)?.keys.length ?? 0) > 0);
      const all = keyed.length > 0 ? keyed : refs.slice(1, 3);
      session.commit(
        'key-camera',
        `the camera at ${frame}`,
        all.reduce((changed, ref) => keyAsItIs(changed, ref, frame), scene),
      );
    },
    options,
  );
}
