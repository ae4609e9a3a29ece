import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { Button } from '../ui/button.tsx';
import { lazyPart } from '../ui/lazy-part.tsx';
import { TooltipProvider } from '../ui/tooltip.tsx';
import { commandsWords as say } from '../words/commands.ts';
import type { Command } from './command.ts';
import { startDispatcher } from './dispatcher.ts';
import { Finder } from './finder.tsx';
import { inOrder, useCommands, useRegistry } from './registry.ts';

const HelpDialog = lazyPart(async () => (await import('./help-dialog.tsx')).HelpDialog);

const GROUP = 'Everywhere';
/** Commands of this group stand over the list of keys. */
export const HELP_GROUP = 'Help';

/** The keyboard of the whole program, the finder and the list of keys. */
export function AppCommands({ children }: { children: ReactNode }) {
  const [open, setOpen] = useState<'finder' | 'help' | null>(null);
  useEffect(startDispatcher, []);
  useCommands(
    'app',
    useMemo(
      (): readonly Command[] => [
        {
          id: 'app.find',
          words: say.findACommandAPlane,
          group: GROUP,
          keys: ['Ctrl+K'],
          evenTyping: true,
          run: () => setOpen('finder'),
        },
        {
          id: 'app.help',
          words: say.keysOfTheKeyboard,
          group: GROUP,
          keys: ['?'],
          run: () => setOpen('help'),
        },
      ],
      [],
    ),
  );
  const close = () => setOpen(null);
  return (
    <TooltipProvider delayDuration={500}>
      {children}
      <Finder open={open === 'finder'} onClose={close} />
      {open === 'help' && (
        <HelpDialog open onClose={close}>
          <HelpWays onClose={close} />
        </HelpDialog>
      )}
    </TooltipProvider>
  );
}

/** From the list of keys to whatever the page offers as help: a tour, the help to read. */
function HelpWays({ onClose }: { onClose: () => void }) {
  const ways = inOrder(useRegistry((state) => state.offers)).filter(({ group }) => group === HELP_GROUP);
  return ways.map(({ id, words, run }) => (
    <Button
      key={id}
      onClick={() => {
        onClose();
        run({ subject: null });
      }}
    >
      {words}
    </Button>
  ));
}
