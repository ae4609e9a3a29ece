import { MoreHorizontal } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { useRef } from 'react';

export interface MenuItem {
  readonly label: string;
  readonly onSelect: () => void;
  readonly danger?: boolean;
  /** Opens something to type in: done once the menu is gone, so that focus does not go back to its button. */
  readonly takesFocus?: boolean;
}

/** The few things that can be done to one card or row. */
export function Menu({ label, items }: { label: string; items: readonly MenuItem[] }) {
  const onceClosed = useRef<(() => void) | undefined>(undefined);
  const choose = (item: MenuItem) => {
    if (item.takesFocus) onceClosed.current = item.onSelect;
    else item.onSelect();
  };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        aria-label={label}
        className="grid h-6 w-6 cursor-pointer place-items-center rounded-[3px] hover:bg-rule-light"
      >
        <MoreHorizontal size={15} aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          onCloseAutoFocus={(event) => {
            if (!onceClosed.current) return;
            event.preventDefault();
            onceClosed.current();
            onceClosed.current = undefined;
          }}
          className="z-50 min-w-36 rounded-[3px] border border-rule bg-raised py-1 shadow-lg"
        >
          {items.map((item) => (
            <DropdownMenu.Item
              key={item.label}
              onSelect={() => choose(item)}
              className={`cursor-pointer px-3 py-1 outline-none data-highlighted:bg-select-wash ${item.danger ? 'text-fault' : ''}`}
            >
              {item.label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
