import { Popover as Radix } from 'radix-ui';
import type { ReactNode } from 'react';
import { Button } from './button.tsx';
import { leaveToField } from './fields/leave-to-field.ts';

interface PopoverProps {
  label: string;
  children: ReactNode;
  /** Pressed look of the button, for something that is on behind it. */
  on?: boolean;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
  wide?: boolean;
  disabled?: boolean;
}

export function Popover({ label, children, on, open, onOpenChange, wide, disabled }: PopoverProps) {
  const control = open === undefined ? {} : { open };
  return (
    <Radix.Root {...control} {...(onOpenChange ? { onOpenChange } : {})}>
      <Radix.Trigger asChild>
        <Button {...(on ? { on } : {})} {...(disabled ? { disabled } : {})}>
          {label}
        </Button>
      </Radix.Trigger>
      <Radix.Portal>
        <Radix.Content
          align="end"
          sideOffset={6}
          className={`z-50 ${wide ? 'w-80' : 'w-64'} rounded-[3px] border border-rule bg-raised p-4 shadow-lg`}
          onEscapeKeyDown={leaveToField}
        >
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
