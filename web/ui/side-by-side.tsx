import type { ReactNode } from 'react';

interface SideBySideProps<Name extends string> {
  views: readonly Name[];
  show: (view: Name) => ReactNode;
}

/** The open views of a step, in equal shares of its width. */
export function SideBySide<Name extends string>({ views, show }: SideBySideProps<Name>) {
  return (
    <div className="flex min-h-0 flex-1">
      {views.map((view, i) => (
        <div
          key={view}
          className={`flex min-h-0 min-w-0 flex-1 ${i > 0 ? 'border-l border-rule' : ''}`}
          data-testid={`view-${view}`}
        >
          {show(view)}
        </div>
      ))}
    </div>
  );
}
