import { toast } from 'sonner';
import { editWords } from '../session/edit-words.ts';
import type { Session } from '../session/session.ts';
import { editsWords as say } from '../words/edits.ts';

export function undoOnce(session: Session): void {
  const entry = session.undo();
  if (entry) toast(say.undoneEdit(editWords(entry)), { duration: 1800 });
}

export function redoOnce(session: Session): void {
  const entry = session.redo();
  if (entry) toast(say.redoneEdit(editWords(entry)), { duration: 1800 });
}

/** Says that something was done, with a way back to before that very edit, whatever was done since. */
export function sayDone(session: Session, words: string, editId: string | null): void {
  if (editId === null) return;
  const undo = () => {
    const entry = session.undo(editId);
    if (entry) toast(say.undoneEdit(editWords(entry)), { duration: 1800 });
  };
  toast(words, { action: { label: say.undo, onClick: undo } });
}

/** Says that something that took its time is done, wherever the artist has gone meanwhile. */
export function sayLate(session: Session, words: string, editId: string | null): void {
  if (editId === null) return;
  if (session.isClosed) toast(say.wordsInShotName(words, session.shot.name));
  else sayDone(session, `${words}.`, editId);
}
