import { useState } from 'react';

interface RenameProps {
  name: string;
  label: string;
  onRename: (name: string) => void;
  onEnd: () => void;
  className?: string;
}

/** A name being changed in place: Enter or leaving keeps it, Escape gives it up. */
export function Rename({ name, label, onRename, onEnd, className }: RenameProps) {
  const [draft, setDraft] = useState(name);
  const keep = () => {
    if (draft.trim() !== '' && draft.trim() !== name) onRename(draft.trim());
    onEnd();
  };
  return (
    <input
      // biome-ignore lint/a11y/noAutofocus: the artist has just asked to type here
      autoFocus
      aria-label={label}
      value={draft}
      maxLength={200}
      className={`min-w-0 rounded-[2px] border border-select bg-raised px-1 ${className ?? ''}`}
      onFocus={(event) => event.currentTarget.select()}
      onChange={(event) => setDraft(event.target.value)}
      onBlur={keep}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === 'Enter') keep();
        if (event.key === 'Escape') onEnd();
      }}
    />
  );
}
