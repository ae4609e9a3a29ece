import { Check } from 'lucide-react';
import { Checkbox as Box } from 'radix-ui';
import { type ReactNode, useId } from 'react';
import { classes } from '../class-names.ts';

interface CheckboxProps {
  checked: boolean;
  onChange: (checked: boolean) => void;
  /** Words beside it; where they stand elsewhere, `label` names it instead. */
  children?: ReactNode;
  label?: string;
  className?: string;
}

/** A box to tick, with its words: 24 px high wherever it stands. */
export function Checkbox({ checked, onChange, children, label, className }: CheckboxProps) {
  const id = useId();
  return (
    <label htmlFor={id} className={classes('flex min-h-6 cursor-pointer items-center gap-1.5', className)}>
      <Box.Root
        id={id}
        checked={checked}
        aria-label={label}
        className="group grid h-6 w-6 shrink-0 cursor-pointer place-items-center"
        onCheckedChange={(state) => onChange(state === true)}
      >
        <span className="grid h-4 w-4 place-items-center rounded-[3px] border border-ink-3 bg-raised group-data-[state=checked]:border-ink group-data-[state=checked]:bg-ink">
          <Box.Indicator>
            <Check size={12} strokeWidth={3} aria-hidden="true" className="text-raised" />
          </Box.Indicator>
        </span>
      </Box.Root>
      {children}
    </label>
  );
}
