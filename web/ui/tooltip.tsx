import { Tooltip as Radix } from 'radix-ui';
import type { ReactElement } from 'react';

/** A few words on what something does, and its keys, when the pointer rests on it or it has the focus. */
export function Tooltip({
  words,
  keys,
  children,
}: {
  words: string;
  keys?: string | undefined;
  children: ReactElement;
}) {
  return (
    <Radix.Root>
      <Radix.Trigger asChild>{children}</Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          sideOffset={5}
          collisionPadding={6}
          className="z-50 max-w-72 rounded-[3px] bg-ink px-2 py-1 text-[12px] text-raised"
        >
          {words}
          {keys && <span className="num ml-2 opacity-75">{keys}</span>}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

export const TooltipProvider = Radix.Provider;
