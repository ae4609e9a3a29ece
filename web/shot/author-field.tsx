import { useState } from 'react';
import { setAuthorName, useAuthor } from '../session/author.ts';
import { TextField } from '../ui/fields/text-field.tsx';
import { Popover } from '../ui/popover.tsx';
import { shotWords as say } from '../words/shot.ts';

/** The name that stands by one's edits, for whoever else works on the shot. */
export function AuthorField() {
  const name = useAuthor((author) => author.name);
  const [typed, setTyped] = useState(name);
  const keep = () => {
    const cleaned = typed.trim();
    if (cleaned === '') setTyped(name);
    else setAuthorName(cleaned);
  };
  return (
    <Popover label={name}>
      <TextField
        label={say.yourNameBesideYourEdits}
        value={typed}
        maxLength={80}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => event.key === 'Enter' && keep()}
      />
    </Popover>
  );
}
