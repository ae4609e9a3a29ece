import { Popover as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './button.tsx';

export function Popover({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Radix.Root>
      <Radix.Trigger asChild>
        <Button>{label}</Button>
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          align="end"
          sideOffset={6}
          className="z-50 w-64 rounded-[3px] border border-rule bg-raised p-4 shadow-lg"
          onKeyDown={(event) => event.stopPropagation()}
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
