import { type Author, authorSchema } from '@keen-ridge/core/history';
import { create } from 'zustand';
import { parseOrNull } from '../api/client.ts';

const KEY = 'keen-ridge/author';

/** A name of one's own until one has given another: two artists who have not must be told apart. */
function newAuthor(): Author {
  const id = crypto.randomUUID();
  return { id, name: `Artist ${id.slice(0, 4).toUpperCase()}` };
}

function readAuthor(): Author {
  const stored = localStorage.getItem(KEY);
  const read = authorSchema.safeParse(parseOrNull(stored ?? ''));
  if (read.success && read.data.id !== '') return read.data;
  const made = newAuthor();
  localStorage.setItem(KEY, JSON.stringify(made));
  return made;
}

/** Who edits in this browser. */
export const useAuthor = create<Author>(readAuthor);

/** Another name for the same author; edits that were made under the old one stay under it. */
export function setAuthorName(name: string): void {
  useAuthor.setState({ name: name.slice(0, 80) });
  localStorage.setItem(KEY, JSON.stringify(useAuthor.getState()));
}
