import type { ReactNode } from 'react';
import { Dialog } from '../ui/dialog.tsx';
import { commandsWords as say } from '../words/commands.ts';
import { chordWords } from './keys.ts';
import { useRegistry } from './registry.ts';

/** Every key that means something on the page as it is now, by where it does. */
export function HelpDialog({
  open,
  onClose,
  children,
}: {
  open: boolean;
  onClose: () => void;
  /** Ways on from here. */
  children: ReactNode;
}) {
  const commands = useRegistry((state) => state.offers).flatMap((offer) => offer.commands);
  const keyed = commands.filter(({ keys }) => keys);
  const groups = [...new Set(keyed.map(({ group }) => group))];
  return (
    <Dialog open={open} onClose={onClose} title={say.keyboard} width={980} tall>
      <div className="-mt-9 mb-3 flex justify-end gap-2">{children}</div>
      <div className="columns-2 gap-8">
        {groups.map((group) => (
          <section key={group} className="mb-4 break-inside-avoid">
            <h3 className="mb-1 border-b border-rule pb-0.5 font-semibold">{group}</h3>
            <dl className="grid grid-cols-[minmax(110px,auto)_1fr] gap-x-4 gap-y-1">
              {keyed
                .filter((command) => command.group === group)
                .map(({ id, words, keys = [] }) => (
                  <div key={id} className="contents">
                    <dt className="num pt-0.5">{keys.map(chordWords).join(', ')}</dt>
                    <dd>{words}</dd>
                  </div>
                ))}
            </dl>
          </section>
        ))}
      </div>
    </Dialog>
  );
}
