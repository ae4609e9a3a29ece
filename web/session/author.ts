import { type Author, authorSchema } from '@keen-ridge/core/history';
import { create } from 'zustand';
import { parseOrNull } from '../api/client.ts';
import { readStored, store } from '../api/storage/browser-storage.ts';

const KEY = 'keen-ridge/author';

/** A name of one's own until one has given another: two artists who have not must be told apart. */
function newAuthor(): Author {
  const id = crypto.randomUUID();
  return { id, name: `Artist ${id.slice(0, 4).toUpperCase()}` };
}

function readAuthor(): Author {
  const stored = readStored(KEY);
  const read = authorSchema.safeParse(parseOrNull(stored ?? ''));
  if (read.success && read.data.id !== '') return read.data;
  const made = newAuthor();
  store(KEY, JSON.stringify(made));
  return made;
}

/** Who edits in this browser. */
export const useAuthor = create<Author>(readAuthor);

/** Whoever is signed in edits under their own name, whatever this browser was called before. */
export function actAs(author: Author): void {
  useAuthor.setState(author, true);
}

/** Whose unsent edits may be sent from here: those of whoever edits now, and what this browser left under its own name. */
export const ownIds = (): ReadonlySet<string> => new Set([useAuthor.getState().id, readAuthor().id]);

/** Another name for the same author; edits that were made under the old one stay under it. */
export function setAuthorName(name: string): void {
  useAuthor.setState({ name: name.slice(0, 80) });
  store(KEY, JSON.stringify(useAuthor.getState()));
}
