import { revisionSchema } from '@keen-ridge/core/contract';
import { useEffect } from 'react';
import { ask, ServerRefusal, ServerUnreachable } from '../api/client.ts';
import { useSession } from '../state/use-session.ts';

const WATCH_EVERY_MS = 4000;

/** Learns of edits made in another window, and keeps an unsent edit from being closed away unnoticed. */
export function useRevisionWatch(): void {
  const session = useSession();
  useEffect(() => {
    const look = async () => {
      if (document.hidden || session.unsent > 0 || session.state.saveState !== 'saved') return;
      try {
        const { revision } = await ask(revisionSchema, `/api/shots/${session.shot.id}/revision`);
        if (session.unsent === 0 && revision > session.knownRevision) session.markStale();
      } catch (error) {
        // A server that is away is noticed by the next edit, which waits for it.
        if (!(error instanceof ServerUnreachable || error instanceof ServerRefusal)) throw error;
      }
    };
    const warn = (event: BeforeUnloadEvent) => {
      if (session.unsent > 0) event.preventDefault();
    };
    const timer = setInterval(() => void look(), WATCH_EVERY_MS);
    const onFocus = () => void look();
    window.addEventListener('focus', onFocus);
    window.addEventListener('beforeunload', warn);
    return () => {
      clearInterval(timer);
      window.removeEventListener('focus', onFocus);
      window.removeEventListener('beforeunload', warn);
    };
  }, [session]);
}
