import { planeOf } from '@keen-ridge/core/scene/records';
import { channelRef } from '@keen-ridge/core/staging';
import type { Names } from '@keen-ridge/core/words';
import { useMemo } from 'react';
import { useSessionState } from '../session/use-session.ts';
import { editsWords as say } from '../words/edits.ts';
import { channelTitle } from './channel-words.ts';

/** Names of what the survey speaks of. */
export function useNames(): Names {
  const scene = useSessionState((state) => state.scene);
  return useMemo(
    () => ({
      plane: (id) => planeOf(scene, id)?.name ?? say.aPlaneThatIsGone,
      channel: (id) => channelTitle(scene, channelRef(id)),
    }),
    [scene],
  );
}
