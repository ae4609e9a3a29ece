import { Tabs } from 'radix-ui';
import type { ReactNode } from 'react';
import { classes } from './class-names.ts';

interface TabRowProps {
  label: string;
  className?: string;
  /** Few tabs that share what little width there is. */
  tight?: boolean;
  tabs: readonly { readonly value: string; readonly words: ReactNode }[];
}

/** The row of tabs within a `Tabs.Root`; arrows go from one to the next. */
export function TabRow({ label, className, tight = false, tabs }: TabRowProps) {
  return (
    <Tabs.List aria-label={label} className={classes('flex', tight ? '*:flex-1' : 'gap-1 *:px-2', className)}>
      {tabs.map(({ value, words }) => (
        <Tabs.Trigger
          key={value}
          value={value}
          className="narrow h-6 max-w-[180px] cursor-pointer truncate border-b-2 border-transparent text-ink-2 data-[state=active]:border-ink data-[state=active]:font-semibold data-[state=active]:text-ink"
        >
          {words}
        </Tabs.Trigger>
      ))}
    </Tabs.List>
  );
}
