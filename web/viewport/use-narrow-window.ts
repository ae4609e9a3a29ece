import { useSyncExternalStore } from 'react';

/** Below this a stand, a picture and a dock leave no room for a strip between them, CSS px. */
const narrow = globalThis.matchMedia?.('(max-width: 1150px)');

function listen(changed: () => void): () => void {
  narrow?.addEventListener('change', changed);
  return () => narrow?.removeEventListener('change', changed);
}

/** Whether the window is too narrow for three things side by side with room to work in each. */
export const useNarrowWindow = (): boolean => useSyncExternalStore(listen, () => narrow?.matches === true);
