import { ToggleGroup } from 'radix-ui';

interface ChoiceProps<T extends string> {
  label: string;
  options: readonly T[];
  words: Readonly<Record<T, string>>;
  value: T;
  onChange: (value: T) => void;
  hideLabel?: boolean;
}

/** One of a few, side by side. */
export function Choice<T extends string>({
  label,
  options,
  words,
  value,
  onChange,
  hideLabel,
}: ChoiceProps<T>) {
  return (
    <>
      {!hideLabel && <p className="mb-1 text-[11px] text-ink-2">{label}</p>}
      <ToggleGroup.Root
        type="single"
        value={value}
        aria-label={label}
        className="flex gap-1"
        onValueChange={(chosen) => {
          const option = options.find((name) => name === chosen);
          if (option) onChange(option);
        }}
      >
        {options.map((name) => (
          <ToggleGroup.Item
            key={name}
            value={name}
            className="h-[26px] flex-1 cursor-pointer whitespace-nowrap rounded-[3px] border border-rule bg-raised px-1.5 data-[state=on]:border-ink data-[state=on]:bg-ink data-[state=on]:text-white"
          >
            {words[name]}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
    </>
  );
}
