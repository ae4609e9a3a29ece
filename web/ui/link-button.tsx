import type { ComponentProps } from 'react';
import { classes } from './class-names.ts';

/** A link that looks like a plain button: for what is downloaded. */
export const LinkButton = ({ className, ...rest }: ComponentProps<'a'>) => (
  <a
    className={classes(
      'inline-flex h-[26px] items-center whitespace-nowrap rounded-[3px] border border-rule bg-raised px-2.5 hover:bg-panel',
      className,
    )}
    {...rest}
  />
);
