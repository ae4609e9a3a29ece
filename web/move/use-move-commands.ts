import { keyAsItIs } from '@keen-ridge/core/edits/keys';
import { setMarker } from '@keen-ridge/core/edits/shot';
import { markersOf } from '@keen-ridge/core/scene/records';
import { CAMERA_CHANNELS, type ChannelRef, channelAt } from '@keen-ridge/core/staging';
import { useMemo } from 'react';
import type { Command } from '../commands/command.ts';
import { useCommands } from '../commands/registry.ts';
import { playRange, setShotView, shotViewOf } from '../session/choices/shot-view.ts';
import type { Session } from '../session/session.ts';
import { useSession } from '../session/use-session.ts';
import { moveWords as say } from '../words/move.ts';

const GROUP = 'Move';

/** Keys every keyed channel of the camera as it is at the playhead; pan where nothing is keyed yet. */
function keyCamera(session: Session): void {
  const { scene, frame } = session.state;
  const refs = (['track', ...CAMERA_CHANNELS] as const).map((name): ChannelRef => ({ on: 'camera', name }));
  const keyed = refs.filter((ref) => (channelAt(scene, ref)?.keys.length ?? 0) > 0);
  const all = keyed.length > 0 ? keyed : refs.slice(1, 3);
  session.commit(
    'key-camera',
    `the camera at ${frame}`,
    all.reduce((changed, ref) => keyAsItIs(changed, ref, frame), scene),
  );
}

function setMarkerHere(session: Session): void {
  const { scene, frame } = session.state;
  if (markersOf(scene).some((marker) => marker.frame === frame)) return;
  session.commit('set-marker', `${frame}`, setMarker(scene, frame, ''));
}

function moveCommands(session: Session): readonly Command[] {
  const { id } = session.shot;
  const range = () => playRange(shotViewOf(id).range, session.state.scene.lengthFrames);
  return [
    {
      id: 'move.in',
      words: say.inPlayFromThisFrame,
      group: GROUP,
      keys: ['I'],
      run: () => {
        const { end } = range();
        setShotView(id, { range: { start: Math.min(session.state.frame, end - 1), end } });
      },
    },
    {
      id: 'move.out',
      words: say.outPlayUpToThis,
      group: GROUP,
      keys: ['O'],
      run: () => {
        const { frame } = session.state;
        setShotView(id, { range: { start: Math.min(range().start, frame), end: frame + 1 } });
      },
    },
    {
      id: 'move.whole',
      words: say.playTheWholeShotIn,
      group: GROUP,
      keys: ['Shift+I', 'Shift+O'],
      when: () => shotViewOf(id).range !== null,
      run: () => setShotView(id, { range: null }),
    },
    {
      id: 'move.marker',
      words: say.markerAtThisFrame,
      group: GROUP,
      keys: ['M'],
      run: () => setMarkerHere(session),
    },
    {
      id: 'move.key-camera',
      words: say.keyTheCameraAsIt,
      group: GROUP,
      keys: ['K'],
      run: () => keyCamera(session),
    },
  ];
}

/** The keyboard of the Move step, beside what can be done on every step. */
export function useMoveCommands(): void {
  const session = useSession();
  useCommands(
    'step',
    useMemo(() => moveCommands(session), [session]),
  );
}
