import { useEffect, useRef, useState } from 'react';
import { fetchFile, saveFile } from '../api/download.ts';
import { tellFault } from '../edits/while-told.ts';
import { useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { surveyWords as say } from '../words/survey.ts';
import { uiWords } from '../words/ui.ts';

interface MadeFileButtonProps {
  href: string;
  words: string;
  label?: string;
  disabled?: boolean;
}

/** Has the server make a file of the shot as it is saved, and saves it here; pressed again meanwhile it is cancelled. */
export function MadeFileButton({ href, words, label, disabled = false }: MadeFileButtonProps) {
  const [busy, setBusy] = useState(false);
  const run = useRef<AbortController | null>(null);
  const unsaved = useSessionState(({ saveState }) => saveState !== 'saved');
  useEffect(() => () => run.current?.abort(), []);
  const make = async () => {
    const mine = new AbortController();
    run.current = mine;
    setBusy(true);
    try {
      const { name, blob } = await fetchFile(href, mine.signal);
      saveFile(name, blob);
    } catch (error) {
      if (!mine.signal.aborted) tellFault(error);
    } finally {
      if (!mine.signal.aborted) setBusy(false);
    }
  };
  const press = () => {
    if (!busy) void make();
    else {
      run.current?.abort();
      setBusy(false);
    }
  };
  return (
    <Button
      disabled={disabled || unsaved}
      aria-label={label}
      title={unsaved ? uiWords.onceEverythingIsSaved : busy ? say.beingMadePressToCancel : undefined}
      onClick={press}
    >
      {busy ? say.cancel : words}
    </Button>
  );
}
