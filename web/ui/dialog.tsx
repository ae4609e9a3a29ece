import { Dialog as Radix } from 'radix-ui';
import { type ReactNode, useRef } from 'react';
import { leaveToField } from './fields/leave-to-field.ts';

interface DialogProps {
  open: boolean;
  onClose: () => void;
  title: string;
  /** One sentence under the title; leave out where the title says it all. */
  description?: string;
  children: ReactNode;
  width?: number;
  /** Starts higher up, for dialogs that need the room. */
  tall?: boolean;
  /** What has the focus once it is closed; where it finds nothing, what had it before. */
  focusAfter?: () => HTMLElement | null;
}

/** What has the focus of the keyboard: a button that was clicked is about to give it back. */
function focusOfTheKeyboard(): HTMLElement | null {
  const now = document.activeElement;
  return now instanceof HTMLElement && now.matches(':focus-visible') ? now : null;
}

export function Dialog({
  open,
  onClose,
  title,
  description,
  children,
  width = 420,
  tall = false,
  focusAfter,
}: DialogProps) {
  const before = useRef<HTMLElement>(null);
  return (
    <Radix.Root open={open} onOpenChange={(now) => !now && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/35" />
        <Radix.Content
          style={{ width }}
          {...(description ? {} : { 'aria-describedby': undefined })}
          className={`fixed left-1/2 z-50 ${tall ? 'top-[5vh] max-h-[90vh]' : 'top-[16vh] max-h-[72vh]'} max-w-[92vw] -translate-x-1/2 overflow-auto rounded-[3px] border border-rule bg-raised p-5 shadow-lg outline-none`}
          data-modal=""
          onEscapeKeyDown={leaveToField}
          onOpenAutoFocus={() => {
            before.current = focusOfTheKeyboard();
          }}
          onCloseAutoFocus={(event) => {
            const next = focusAfter?.() ?? before.current;
            if (!next?.isConnected) return;
            event.preventDefault();
            next.focus();
          }}
        >
          <Radix.Title className="text-[14px] font-semibold">{title}</Radix.Title>
          {description && <Radix.Description className="mt-1 text-ink-2">{description}</Radix.Description>}
          <div className="mt-4">{children}</div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
