import { useEffect } from 'react';
import { useAuthor } from '../session/author.ts';
import { useSession } from '../session/use-session.ts';

/** What is dragged was made of the scene as it was when the pointer went down, whatever comes from others meanwhile. */
export function useHeldScene(): void {
  const session = useSession();
  useEffect(() => {
    const hold = () => session.hold();
    // After whatever the release keeps.
    const letGo = () => setTimeout(() => session.letGo());
    window.addEventListener('pointerdown', hold, { capture: true });
    window.addEventListener('pointerup', letGo, { capture: true });
    window.addEventListener('pointercancel', letGo, { capture: true });
    window.addEventListener('blur', letGo);
    return () => {
      window.removeEventListener('pointerdown', hold, { capture: true });
      window.removeEventListener('pointerup', letGo, { capture: true });
      window.removeEventListener('pointercancel', letGo, { capture: true });
      window.removeEventListener('blur', letGo);
    };
  }, [session]);
}

/** Keeps an unsent edit from being closed away unnoticed. */
export function useUnsentWarning(): void {
  const session = useSession();
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => {
      if (session.unsent > 0) event.preventDefault();
    };
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [session]);
}

/** Edits are made under the name that the artist has now. */
export function useAuthorOfEdits(): void {
  const session = useSession();
  const author = useAuthor();
  useEffect(() => session.setAuthor(author), [session, author]);
}
