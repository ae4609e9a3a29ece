import { Command as Cmdk } from 'cmdk';
import { Dialog as Radix } from 'radix-ui';
import { useState } from 'react';
import { commandsWords as say } from '../words/commands.ts';
import { canRun } from './command.ts';
import { chordWords } from './keys.ts';
import { offered, useRegistry } from './registry.ts';

/** Finds what can be done, and what there is, by a few letters of its name. */
export function Finder({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Radix.Root open={open} onOpenChange={(now) => !now && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <Radix.Content
          data-modal=""
          aria-describedby={undefined}
          className="fixed top-[12vh] left-1/2 z-50 w-[560px] max-w-[92vw] -translate-x-1/2 overflow-hidden rounded-[3px] border border-rule bg-raised shadow-lg"
        >
          <Radix.Title className="sr-only">{say.find}</Radix.Title>
          <FinderList onClose={onClose} />
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

const ITEM = 'flex cursor-pointer items-center gap-3 px-4 py-1.5 data-[selected=true]:bg-select-wash';
const GROUP =
  '[&_[cmdk-group-heading]]:px-4 [&_[cmdk-group-heading]]:pt-2.5 [&_[cmdk-group-heading]]:pb-1 [&_[cmdk-group-heading]]:text-[11px] [&_[cmdk-group-heading]]:text-ink-2';

/** Every word that was typed stands somewhere in the name; nearer to its beginning is better. */
function found(_id: string, text: string, [words = '']: string[] = []): number {
  const name = words.toLocaleLowerCase();
  const places = text
    .toLocaleLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .map((word) => name.indexOf(word));
  if (places.some((place) => place < 0)) return 0;
  return 1 / (1 + Math.min(...places, name.length));
}

function FinderList({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('');
  const commands = offered().filter((command) => !command.keysOnly && canRun(command, { subject: null }));
  const finds = useRegistry((state) => state.finds).flat();
  const pick = (run: () => void) => () => {
    onClose();
    // Once the finder has given the focus back.
    setTimeout(run);
  };
  return (
    <Cmdk label={say.find} filter={found}>
      <Cmdk.Input
        autoFocus
        placeholder={say.aCommandAPlaneA}
        value={text}
        onValueChange={setText}
        className="h-11 w-full border-b border-rule bg-transparent px-4 text-[14px] outline-none"
      />
      <Cmdk.List className="max-h-[56vh] overflow-auto py-1">
        <Cmdk.Empty className="px-4 py-3 text-ink-2">{say.nothingIsCalledThatHere}</Cmdk.Empty>
        <Cmdk.Group heading={say.commands} className={GROUP}>
          {commands.map(({ id, words, keys, run }) => (
            <Cmdk.Item
              key={id}
              value={id}
              keywords={[words]}
              className={ITEM}
              onSelect={pick(() => run({ subject: null }))}
            >
              <span className="flex-1">{words}</span>
              {keys?.[0] && <span className="num text-ink-2">{chordWords(keys[0])}</span>}
            </Cmdk.Item>
          ))}
        </Cmdk.Group>
        {finds.map(({ heading, find }) => (
          <Cmdk.Group key={heading} heading={heading} className={GROUP}>
            {find(text).map(({ id, words, run }) => (
              <Cmdk.Item key={id} value={id} keywords={[words]} className={ITEM} onSelect={pick(run)}>
                {words}
              </Cmdk.Item>
            ))}
          </Cmdk.Group>
        ))}
      </Cmdk.List>
    </Cmdk>
  );
}
