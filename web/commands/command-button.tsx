import type { ReactNode } from 'react';
import { Button } from '../ui/button.tsx';
import { Tooltip } from '../ui/tooltip.tsx';
import { chordWords } from './keys.ts';
import { inOrder, runCommand, useRegistry } from './registry.ts';

interface CommandButtonProps {
  /** Of the command that it does. */
  id: string;
  children: ReactNode;
  /** Says more than the command's own words, such as what would be undone. */
  hint?: string;
  label?: string;
  disabled?: boolean;
  icon?: boolean;
  tone?: 'plain' | 'bare' | 'danger' | 'strong';
}

/** A button for a command: its words and keys come from the table. */
export function CommandButton({ id, children, hint, label, ...button }: CommandButtonProps) {
  const command = useRegistry(({ offers }) => inOrder(offers).find((one) => one.id === id));
  const [chord] = command?.keys ?? [];
  return (
    <Tooltip words={hint ?? command?.words ?? ''} keys={chord && chordWords(chord)}>
      <Button aria-label={label} aria-description={hint} onClick={() => runCommand(id)} {...button}>
        {children}
      </Button>
    </Tooltip>
  );
}
