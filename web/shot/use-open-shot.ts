import { useEffect } from 'react';
import { toast } from 'sonner';
import { useAuthor } from '../session/author.ts';
import { faultWords } from '../session/fault-words.ts';
import { useSession } from '../session/use-session.ts';

/** Says what the session could not do. */
export function useFaultNotices(): void {
  const session = useSession();
  useEffect(
    () =>
      session.faults.subscribe(({ last }) => {
        if (last) toast.error(faultWords(last));
      }),
    [session],
  );
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
