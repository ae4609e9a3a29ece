import { planeOf } from '@keen-ridge/core/scene/records';
import { channelRef } from '@keen-ridge/core/staging';
import type { Names } from '@keen-ridge/core/words';
import { useMemo } from 'react';
import { useSessionState } from '../session/use-session.ts';
import { channelTitle } from './channel-words.ts';

/** Names of what the survey speaks of. */
export function useNames(): Names {
  const scene = useSessionState((state) => state.scene);
  return useMemo(
    () => ({
      plane: (id) => planeOf(scene, id)?.name ?? 'A plane that is gone',
      channel: (id) => channelTitle(scene, channelRef(id)),
    }),
    [scene],
  );
}
