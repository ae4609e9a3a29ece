import type { ComponentProps } from 'react';
import { classes } from './class-names.ts';

interface ButtonProps extends ComponentProps<'button'> {
  /** Pressed state of a switch; leave out for a plain button. */
  on?: boolean;
  /** Holds an icon or a single sign. */
  icon?: boolean;
  tone?: 'plain' | 'bare' | 'danger' | 'strong';
}

const TONES = {
  plain: 'border-rule bg-raised hover:bg-panel text-ink',
  bare: 'border-transparent bg-transparent hover:bg-rule-light text-ink',
  danger: 'border-fault bg-raised text-fault hover:bg-panel',
  strong: 'border-ink bg-ink text-raised hover:opacity-90',
} as const;

/** A button in plain words. With `on` it is a switch. */
export function Button({ on, icon, tone = 'plain', className, ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      aria-pressed={on}
      className={classes(
        'inline-flex h-[26px] shrink-0 cursor-pointer items-center justify-center gap-1.5 whitespace-nowrap rounded-[3px] border text-[13px]',
        'disabled:cursor-default disabled:opacity-45',
        icon ? 'w-7' : 'px-2.5',
        on ? TONES.strong : TONES[tone],
        className,
      )}
      {...rest}
    />
  );
}
