import { Check, ChevronDown } from 'lucide-react';
import { Select as Radix } from 'radix-ui';
import { useId } from 'react';
import { classes } from '../class-names.ts';
import { styleNonce } from './style-nonce.ts';

interface SelectProps<T extends string> {
  label: string;
  options: readonly T[];
  words: Readonly<Record<T, string>>;
  /** Empty where it is none of them: then the placeholder stands. */
  value: T | '';
  placeholder?: string;
  onChange: (value: T) => void;
  hideLabel?: boolean;
  disabled?: boolean;
  className?: string;
}

/** One of several, in a list that opens. */
export function Select<T extends string>({
  label,
  options,
  words,
  value,
  onChange,
  placeholder,
  hideLabel,
  disabled = false,
  className,
}: SelectProps<T>) {
  const id = useId();
  const choose = (chosen: string) => {
    const option = options.find((one) => one === chosen);
    if (option !== undefined) onChange(option);
  };
  return (
    <div className={className}>
      <label htmlFor={id} className={classes('mb-0.5 block text-[11px] text-ink-2', hideLabel && 'sr-only')}>
        {label}
      </label>
      <Radix.Root value={value} onValueChange={choose} disabled={disabled}>
        <Radix.Trigger
          id={id}
          className="flex h-[26px] w-full cursor-pointer items-center gap-1.5 whitespace-nowrap rounded-[3px] border border-rule bg-raised px-2 disabled:cursor-default disabled:opacity-45"
        >
          <span className="min-w-0 flex-1 truncate text-left">
            <Radix.Value placeholder={placeholder}>{value === '' ? placeholder : words[value]}</Radix.Value>
          </span>
          <Radix.Icon>
            <ChevronDown size={13} aria-hidden="true" />
          </Radix.Icon>
        </Radix.Trigger>
        <Radix.Portal>
          <Radix.Content
            position="popper"
            sideOffset={3}
            className="z-50 max-h-[60vh] min-w-[var(--radix-select-trigger-width)] overflow-auto rounded-[3px] border border-rule bg-raised py-1 shadow-lg"
          >
            <Radix.Viewport nonce={styleNonce()}>
              {options.map((option) => (
                <Radix.Item
                  key={option}
                  value={option}
                  className="flex cursor-pointer items-center gap-2 px-3 py-1 outline-none data-highlighted:bg-select-wash"
                >
                  <span className="flex-1">
                    <Radix.ItemText>{words[option]}</Radix.ItemText>
                  </span>
                  <Radix.ItemIndicator>
                    <Check size={13} aria-hidden="true" />
                  </Radix.ItemIndicator>
                </Radix.Item>
              ))}
            </Radix.Viewport>
          </Radix.Content>
        </Radix.Portal>
      </Radix.Root>
    </div>
  );
}
