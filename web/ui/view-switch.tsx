import { Minus, Plus } from 'lucide-react';
import { uiWords as say } from '../words/ui.ts';
import { Button } from './button.tsx';

interface ViewSwitchProps<V extends string> {
  options: readonly V[];
  words: Readonly<Record<V, string>>;
  /** One or two that are open, left to right. */
  views: readonly V[];
  onChange: (views: V[]) => void;
}

/** Which views are open: one is swapped for another; with Shift, or by its plus, a second one stands beside it. */
export function ViewSwitch<V extends string>({ options, words, views, onChange }: ViewSwitchProps<V>) {
  const toggle = (name: V, beside: boolean) => {
    const others = views.filter((view) => view !== name);
    if (!beside) onChange([name]);
    else if (!views.includes(name)) onChange([...views, name].slice(-2));
    else if (others.length > 0) onChange(others);
  };
  return (
    <fieldset className="flex items-center gap-1">
      <legend className="sr-only">{say.views}</legend>
      {options.map((name) => {
        const open = views.includes(name);
        return (
          <span key={name} className="flex">
            <Button on={open} className="rounded-r-none" onClick={(event) => toggle(name, event.shiftKey)}>
              {words[name]}
            </Button>
            <Button
              aria-label={open ? say.closeName(words[name]) : say.nameBesideTheOther(words[name])}
              title={open ? say.closeThisView : say.besideTheOtherView}
              disabled={views.length === 1 && open}
              className="-ml-px !w-6 rounded-l-none"
              icon
              onClick={() => toggle(name, true)}
            >
              {open ? <Minus size={10} aria-hidden="true" /> : <Plus size={10} aria-hidden="true" />}
            </Button>
          </span>
        );
      })}
    </fieldset>
  );
}
