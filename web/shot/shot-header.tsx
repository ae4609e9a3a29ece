import { Redo2, Search, Undo2 } from 'lucide-react';
import { Link, NavLink } from 'react-router';
import { useMe } from '../api/people.ts';
import { CommandButton } from '../commands/command-button.tsx';
import { PersonMenu } from '../people/person-menu.tsx';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { editWords } from '../session/edit-words.ts';
import type { SaveState } from '../session/shot-link.ts';
import { useSurvey } from '../session/survey/use-survey.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Logo } from '../ui/logo.tsx';
import { useNarrowWindow } from '../viewport/use-narrow-window.ts';
import { shotWords as say } from '../words/shot.ts';
import { AuthorField } from './author-field.tsx';
import { OthersHere } from './others-here.tsx';
import { STEPS } from './steps.ts';

const SAVE_WORDS: Readonly<Record<SaveState, string>> = {
  saved: say.saved,
  saving: say.saving,
  offline: say.offlineKeptHere,
};

export function ShotHeader() {
  const { shot } = useSession();
  const narrow = useNarrowWindow();
  return (
    <header className="grid h-[42px] shrink-0 grid-cols-[1fr_auto_1fr] items-center border-b border-rule bg-bar px-3.5">
      <div className="flex min-w-0 items-center gap-3">
        <Link
          to="/"
          aria-label={say.keenRidgeBackToThe}
          className="flex h-8 shrink-0 items-center gap-2.5 whitespace-nowrap"
        >
          <Logo />
          {!narrow && <span className="font-semibold">{say.keenRidge}</span>}
        </Link>
        {/* The shot's name tells windows apart: the production's gives way to it. */}
        <p
          className="narrow flex min-w-0 gap-1 overflow-hidden pl-1"
          title={`${shot.productionName} ${shot.name}`}
        >
          <span className="min-w-0 truncate text-ink-2">{shot.productionName}</span>
          <span data-testid="shot-name" className="max-w-full shrink-0 truncate font-semibold">
            {shot.name}
          </span>
        </p>
      </div>
      <nav aria-label={say.steps} className="flex h-full">
        {STEPS.map(([path, word]) => (
          <NavLink
            key={path}
            to={path}
            className="flex items-center border-b-3 border-transparent px-3 text-ink-2 hover:text-ink aria-[current=page]:border-ink aria-[current=page]:font-semibold aria-[current=page]:text-ink"
          >
            {word}
            {path === 'survey' && <OpenCount />}
          </NavLink>
        ))}
      </nav>
      <div className="flex items-center justify-end gap-2">
        <SaveWord />
        <OthersHere />
        <Author />
        <UndoRedo />
        <KeyingSwitch />
        <CommandButton id="app.find" tone="bare" icon label={say.find}>
          <Search size={14} aria-hidden="true" />
        </CommandButton>
        <CommandButton id="app.help" tone="bare" icon label={say.keysOfTheKeyboard}>
          ?
        </CommandButton>
      </div>
    </header>
  );
}

/** The name by which one edits: one's own where one is signed in. */
function Author() {
  const session = useSession();
  const person = useMe().data?.person;
  return person ? <PersonMenu person={person} unsent={() => session.unsent > 0} /> : <AuthorField />;
}

/** How many findings are open, on the step's tab. */
function OpenCount() {
  const { answer, open } = useSurvey();
  if (!answer || open.length === 0) return null;
  return (
    <span
      className="num ml-1.5 rounded-full bg-fault px-1.5 text-[10px] leading-4 text-raised"
      title={say.openFindings}
      aria-hidden="true"
    >
      {open.length}
    </span>
  );
}

function SaveWord() {
  const saveState = useSessionState((state) => state.saveState);
  const saveFault = useSessionState((state) => state.saveFault);
  const { mayChange } = useSession();
  const amiss = saveState === 'offline';
  if (!mayChange) return <span className="text-ink-2">{say.onlyLooking}</span>;
  return (
    <span role="status" className={amiss ? 'font-semibold text-fault' : 'text-ink-2'}>
      {saveState === 'offline' && saveFault !== null
        ? say.notSavedYetSaveFault(saveFault)
        : SAVE_WORDS[saveState]}
    </span>
  );
}

function UndoRedo() {
  const undo = useSessionState((state) => state.undo.at(-1));
  const redo = useSessionState((state) => state.redo.at(-1));
  return (
    <span className="flex">
      <CommandButton
        id="shot.undo"
        tone="bare"
        icon
        label={say.undo}
        hint={undo ? say.undoEdit(editWords(undo)) : say.nothingToUndo}
        disabled={!undo}
      >
        <Undo2 size={15} aria-hidden="true" />
      </CommandButton>
      <CommandButton
        id="shot.redo"
        tone="bare"
        icon
        label={say.redo}
        hint={redo ? say.redoEdit(editWords(redo)) : say.nothingToRedo}
        disabled={!redo}
      >
        <Redo2 size={15} aria-hidden="true" />
      </CommandButton>
    </span>
  );
}

function KeyingSwitch() {
  const keying = usePreferences((state) => state.keying);
  const meaning = keying ? say.keyingOnMeans : say.keyingOffMeans;
  return (
    <Button aria-pressed={keying} title={meaning} onClick={() => setPreferences({ keying: !keying })}>
      <span
        aria-hidden="true"
        className={`h-2 w-2 rounded-full ${keying ? 'bg-signal' : 'border border-ink-3'}`}
      />
      {say.keying}
      {keying ? say.on : say.off}
    </Button>
  );
}
