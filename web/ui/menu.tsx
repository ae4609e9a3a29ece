import { Check, MoreHorizontal } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Fragment, useRef } from 'react';
import { ROVING } from './pointer/roving.ts';

export interface MenuItem {
  readonly label: string;
  readonly onSelect: () => void;
  readonly danger?: boolean;
  /** One of several of which one holds: a mark says which. */
  readonly checked?: boolean;
  /** Stands over it, where a group begins. */
  readonly heading?: string;
  /** Opens something with a focus of its own: done once the menu is gone and its button has the focus back. */
  readonly takesFocus?: boolean;
}

interface MenuProps {
  label: string;
  items: readonly MenuItem[];
  /** Its button is one of those that arrow keys go between. */
  roving?: boolean;
}

/** The few things that can be done to one card or row. */
export function Menu({ label, items, roving = false }: MenuProps) {
  const onceClosed = useRef<(() => void) | undefined>(undefined);
  const button = useRef<HTMLButtonElement>(null);
  const choose = (item: MenuItem) => {
    if (item.takesFocus) onceClosed.current = item.onSelect;
    else item.onSelect();
  };
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        ref={button}
        {...(roving ? ROVING : {})}
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
            button.current?.focus();
            onceClosed.current();
            onceClosed.current = undefined;
          }}
          className="max-h-[var(--radix-dropdown-menu-content-available-height)] overflow-y-auto z-50 min-w-36 rounded-[3px] border border-rule bg-raised py-1 shadow-lg"
        >
          {items.map((item) => (
            <Fragment key={`${item.heading ?? ''}${item.label}`}>
              {item.heading && (
                <DropdownMenu.Label className="mt-1 border-t border-rule-light px-3 pt-1.5 pb-0.5 text-[11px] text-ink-2">
                  {item.heading}
                </DropdownMenu.Label>
              )}
              <DropdownMenu.Item
                {...(item.checked === undefined
                  ? {}
                  : { role: 'menuitemradio', 'aria-checked': item.checked })}
                onSelect={() => choose(item)}
                className={`flex cursor-pointer items-center gap-2 px-3 py-1 outline-none data-highlighted:bg-select-wash ${item.danger ? 'text-fault' : ''}`}
              >
                <span className="flex-1">{item.label}</span>
                {item.checked && <Check size={13} aria-hidden="true" />}
              </DropdownMenu.Item>
            </Fragment>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
