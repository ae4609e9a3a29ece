import { Redo2, Undo2 } from 'lucide-react';
import { Link, NavLink } from 'react-router';
import { redoOnce, undoOnce } from '../edits/undo.ts';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { editWords } from '../session/edit-words.ts';
import type { SaveState } from '../session/shot-link.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Dialog } from '../ui/dialog.tsx';
import { Logo } from '../ui/logo.tsx';
import { AuthorField } from './author-field.tsx';
import { SHOT_KEYS } from './use-shot-keys.ts';

/** The steps in the order of the work. */
const STEPS = [
  ['art', 'Art'],
  ['stage', 'Stage'],
  ['move', 'Move'],
  ['hand-off', 'Hand-off'],
] as const;

const SAVE_WORDS: Readonly<Record<SaveState, string>> = {
  saved: 'Saved',
  saving: 'Saving …',
  offline: 'Offline: kept here',
};

export function ShotHeader({ helpOpen, onHelp }: { helpOpen: boolean; onHelp: (open: boolean) => void }) {
  const { shot } = useSession();
  return (
    <header className="grid h-[42px] shrink-0 grid-cols-[1fr_auto_1fr] items-center border-b border-rule bg-bar px-3.5">
      <div className="flex min-w-0 items-center gap-3">
        <Link
          to="/"
          aria-label="Keen Ridge, back to the wall"
          className="flex shrink-0 items-center gap-2.5 whitespace-nowrap"
        >
          <Logo />
          <span className="font-semibold">Keen Ridge</span>
        </Link>
        <p className="narrow truncate pl-1">
          <span className="text-ink-2">{shot.productionName}</span>{' '}
          <span className="font-semibold">{shot.name}</span>
        </p>
      </div>
      <nav aria-label="Steps" className="flex h-full">
        {STEPS.map(([path, word]) => (
          <NavLink
            key={path}
            to={path}
            className="flex items-center border-b-3 border-transparent px-3 text-ink-2 hover:text-ink aria-[current=page]:border-ink aria-[current=page]:font-semibold aria-[current=page]:text-ink"
          >
            {word}
          </NavLink>
        ))}
      </nav>
      <div className="flex items-center justify-end gap-2">
        <SaveWord />
        <AuthorField />
        <UndoRedo />
        <KeyingSwitch />
        <Button tone="bare" icon aria-label="Keys of the keyboard" onClick={() => onHelp(true)}>
          ?
        </Button>
      </div>
      <Dialog open={helpOpen} onClose={() => onHelp(false)} title="Keyboard" width={940} tall>
        <dl className="grid grid-cols-[auto_1fr_auto_1fr] gap-x-5 gap-y-1.5">
          {SHOT_KEYS.map(([key, what]) => (
            <div key={key} className="contents">
              <dt className="num pt-0.5">{key}</dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </Dialog>
    </header>
  );
}

function SaveWord() {
  const saveState = useSessionState((state) => state.saveState);
  const saveFault = useSessionState((state) => state.saveFault);
  const amiss = saveState === 'offline';
  return (
    <span role="status" className={amiss ? 'font-semibold text-fault' : 'text-ink-2'}>
      {saveState === 'offline' && saveFault !== null ? `Not saved yet: ${saveFault}` : SAVE_WORDS[saveState]}
    </span>
  );
}

function UndoRedo() {
  const session = useSession();
  const undo = useSessionState((state) => state.undo.at(-1));
  const redo = useSessionState((state) => state.redo.at(-1));
  return (
    <span className="flex">
      <Button
        tone="bare"
        icon
        aria-label="Undo"
        title={undo ? `Undo ${editWords(undo)}` : 'Nothing to undo'}
        disabled={!undo}
        onClick={() => undoOnce(session)}
      >
        <Undo2 size={15} aria-hidden="true" />
      </Button>
      <Button
        tone="bare"
        icon
        aria-label="Redo"
        title={redo ? `Redo ${editWords(redo)}` : 'Nothing to redo'}
        disabled={!redo}
        onClick={() => redoOnce(session)}
      >
        <Redo2 size={15} aria-hidden="true" />
      </Button>
    </span>
  );
}

function KeyingSwitch() {
  const keying = usePreferences((state) => state.keying);
  const meaning = keying
    ? 'On: a change of the camera is keyed at this frame'
    : 'Off: a change of the camera shifts the whole move, and no key is made';
  return (
    <Button aria-pressed={keying} title={meaning} onClick={() => setPreferences({ keying: !keying })}>
      <span
        aria-hidden="true"
        className={`h-2 w-2 rounded-full ${keying ? 'bg-signal' : 'border border-ink-3'}`}
      />
      Keying {keying ? 'on' : 'off'}
    </Button>
  );
}
