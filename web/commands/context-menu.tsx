import { ContextMenu as Radix } from 'radix-ui';
import { type ReactNode, useState } from 'react';
import { flushSync } from 'react-dom';
import { type Command, canRun, type Subject, subjectAt } from './command.ts';
import { chordWords } from './keys.ts';
import { offered } from './registry.ts';

interface Opened {
  readonly subject: Subject;
  readonly commands: readonly Command[];
}

/** What can be done with the thing under the pointer, on a right click or the menu key. Elsewhere the browser's own menu opens. */
export function CommandMenu({
  children,
  onOpen,
}: {
  children: ReactNode;
  onOpen?: (subject: Subject) => void;
}) {
  const [opened, setOpened] = useState<Opened | null>(null);
  const look = (target: EventTarget) => {
    const subject = subjectAt(target instanceof Element ? target : null);
    if (!subject) return null;
    onOpen?.(subject);
    const commands = offered().filter((one) => one.on === subject.kind && canRun(one, { subject }));
    return commands.length > 0 ? { subject, commands } : null;
  };
  return (
    <Radix.Root>
      <Radix.Trigger
        asChild
        disabled={opened === null}
        // Whether there is a menu is known only now, and must be before the trigger hears of the click.
        onContextMenuCapture={(event) => flushSync(() => setOpened(look(event.target)))}
      >
        {children}
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content className="z-50 max-h-[var(--radix-context-menu-content-available-height)] min-w-44 overflow-y-auto rounded-[3px] border border-rule bg-raised py-1 shadow-lg">
          {opened?.commands.map((command) => (
            <Radix.Item
              key={command.id}
              onSelect={() => setTimeout(() => command.run({ subject: opened.subject }))}
              className={`flex cursor-pointer items-center gap-6 px-3 py-1 outline-none data-highlighted:bg-select-wash ${command.danger ? 'text-fault' : ''}`}
            >
              <span className="flex-1">{command.words}</span>
              {command.keys?.[0] && <span className="num text-ink-2">{chordWords(command.keys[0])}</span>}
            </Radix.Item>
          ))}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
