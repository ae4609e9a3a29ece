import { ToggleGroup } from 'radix-ui';

interface ChoiceProps<T extends string> {
  label: string;
  options: readonly T[];
  words: Readonly<Record<T, string>>;
  value: T;
  onChange: (value: T) => void;
  hideLabel?: boolean;
  /** How many stand side by side; all of them where it is left out. */
  columns?: number;
  disabled?: (value: T) => boolean;
}

/** One of a few, side by side. */
export function Choice<T extends string>({
  label,
  options,
  words,
  value,
  onChange,
  hideLabel,
  columns,
  disabled,
}: ChoiceProps<T>) {
  return (
    <>
      {!hideLabel && <p className="mb-1 text-[11px] text-ink-2">{label}</p>}
      <ToggleGroup.Root
        type="single"
        value={value}
        aria-label={label}
        className={columns ? 'grid gap-1' : 'flex gap-1'}
        style={columns ? { gridTemplateColumns: `repeat(${columns}, minmax(max-content, 1fr))` } : undefined}
        onValueChange={(chosen) => {
          const option = options.find((name) => name === chosen);
          if (option) onChange(option);
        }}
      >
        {options.map((name) => (
          <ToggleGroup.Item
            key={name}
            value={name}
            disabled={disabled?.(name)}
            className="h-[26px] flex-1 cursor-pointer whitespace-nowrap rounded-[3px] border border-rule bg-raised px-1 disabled:cursor-default disabled:opacity-45 data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:text-raised"
          >
            {words[name]}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </>
  );
}
