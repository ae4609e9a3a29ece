import type { Scene } from '@keen-ridge/core/scene';
import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
import type { Session, SessionState } from './session.ts';

export const SessionContext = createContext<Session | null>(null);

export function useSession(): Session {
  const session = useContext(SessionContext);
  if (!session) throw new Error('useSession needs a shot that is open');
  return session;
}

export const useSessionState = <T>(pick: (state: SessionState) => T): T => useStore(useSession().store, pick);

/** The scene as shown: with the gesture that is under way, if one is. */
export const useShownScene = (): Scene => useSessionState((state) => state.preview ?? state.scene);
