import { Popover } from 'radix-ui';
import { type PointerEvent, useId, useRef, useState } from 'react';
import { HexColorPicker } from 'react-colorful';
import { uiWords as say } from '../../words/ui.ts';
import { followDrag } from '../pointer/drag.ts';
import { type BeginTrial, setOnce, type Trial } from '../trial.ts';

interface ColourFieldProps {
  label: string;
  /** `#rrggbb`, lower case. */
  colour: string;
  trial: BeginTrial<string>;
  hideLabel?: boolean;
  disabled?: boolean;
  className?: string;
}

const HEX = /^#?([0-9a-f]{6})$/i;

/** A colour to pick or to type; a drag in the picker is one edit, wherever it is let go. */
export function ColourField({ label, colour, trial, hideLabel, disabled, className }: ColourFieldProps) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const typed = useRef<string | null>(null);
  const type = (text: string | null) => {
    typed.current = text;
    setDraft(text);
  };
  const finish = () => {
    const read = HEX.exec(typed.current ?? '');
    type(null);
    const next = `#${read?.[1]?.toLowerCase()}`;
    if (read && next !== colour) setOnce(trial, next);
  };
  return (
    <div className={className ?? 'w-[116px]'}>
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'mb-0.5 block text-[11px] text-ink-2'}>
        {label}
      </label>
      <div className="flex h-[26px] items-center gap-1.5 rounded-[3px] border border-rule bg-raised px-1 outline-select has-[input:focus]:outline-2">
        <Popover.Root>
          <Popover.Trigger
            disabled={disabled}
            aria-label={say.pickValue(label.toLowerCase())}
            className="h-6 w-7 shrink-0 cursor-pointer border border-ink-3"
            style={{ background: colour }}
          />
          <Popover.Portal>
            <Popover.Content
              sideOffset={6}
              className="z-50 rounded-[3px] border border-rule bg-raised p-2 shadow-lg"
            >
              <Picker colour={colour} trial={trial} />
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
        <input
          id={id}
          className="num h-full w-full min-w-0 bg-transparent outline-none"
          spellCheck={false}
          disabled={disabled}
          value={draft ?? colour}
          data-typing={draft === null ? undefined : ''}
          onFocus={(event) => event.currentTarget.select()}
          onChange={(event) => type(event.target.value)}
          onBlur={finish}
          onKeyDown={(event) => {
            if (event.key === 'Enter') event.currentTarget.blur();
            if (event.key !== 'Escape') return;
            event.preventDefault();
            event.stopPropagation();
            type(null);
            event.currentTarget.blur();
          }}
        />
      </div>
    </div>
  );
}

/** The field of colours: what the picker says between a press and its end, or between a key and its release, is one trial. */
function Picker({ colour, trial }: Pick<ColourFieldProps, 'colour' | 'trial'>) {
  const tried = useRef<Trial<string> | null>(null);
  /** A drag was given up: what the picker still says of it means nothing. */
  const deaf = useRef(false);
  const end = (how: 'keep' | 'drop') => {
    tried.current?.[how]();
    tried.current = null;
    deaf.current = how === 'drop';
  };
  const onPointerDown = (event: PointerEvent<HTMLDivElement>) => {
    if (event.button !== 0) return;
    deaf.current = false;
    const drag = { keep: () => end('keep'), click: () => end('keep'), drop: () => end('drop') };
    // The picker follows the same pointer by itself.
    followDrag(event.nativeEvent, null, drag, { capture: false });
  };
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: only marks where a drag in the picker begins and ends
    <div
      onPointerDownCapture={onPointerDown}
      onKeyDownCapture={() => {
        deaf.current = false;
      }}
      onKeyUp={() => end('keep')}
      onBlur={() => end('keep')}
    >
      <HexColorPicker
        color={colour}
        onChange={(next) => {
          if (deaf.current) return;
          tried.current ??= trial();
          tried.current.update(next.toLowerCase());
        }}
      />
    </div>
  );
}
