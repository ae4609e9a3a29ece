import { MoreHorizontal } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';

export interface MenuItem {
  readonly label: string;
  readonly onSelect: () => void;
  readonly danger?: boolean;
}

/** The few things that can be done to one card or row. */
export function Menu({ label, items }: { label: string; items: readonly MenuItem[] }) {
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
          className="z-50 min-w-36 rounded-[3px] border border-rule bg-raised py-1 shadow-lg"
        >
          {items.map((item) => (
            <DropdownMenu.Item
              key={item.label}
              onSelect={item.onSelect}
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
