import { Popover } from 'radix-ui';
import { useId, useState } from 'react';
import { HexColorPicker } from 'react-colorful';

interface ColourFieldProps {
  label: string;
  /** `#rrggbb`, lower case. */
  colour: string;
  onChange: (colour: string, keep: boolean) => void;
}

const HEX = /^#?([0-9a-f]{6})$/i;

/** A colour to pick or to type; a drag in the picker is one edit. */
export function ColourField({ label, colour, onChange }: ColourFieldProps) {
  const id = useId();
  const [draft, setDraft] = useState<string | null>(null);
  const finish = () => {
    const read = HEX.exec(draft ?? '');
    if (read) onChange(`#${read[1]?.toLowerCase()}`, true);
    setDraft(null);
  };
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-[11px] text-ink-2">
        {label}
      </label>
      <div className="flex h-[26px] w-[116px] items-center gap-1.5 rounded-[3px] border border-rule bg-raised px-1 outline-select has-[input:focus]:outline-2">
        <Popover.Root>
          <Popover.Trigger
            aria-label={`Pick ${label.toLowerCase()}`}
            className="h-[18px] w-7 shrink-0 cursor-pointer border border-ink-3"
            style={{ background: colour }}
          />
          <Popover.Portal>
            <Popover.Content
              sideOffset={6}
              className="z-50 rounded-[3px] border border-rule bg-raised p-2 shadow-lg"
              onKeyDown={(event) => event.stopPropagation()}
            >
              {/* biome-ignore lint/a11y/noStaticElementInteractions: only marks the end of a drag in the picker */}
              <div onPointerUp={() => onChange(colour, true)} onKeyUp={() => onChange(colour, true)}>
                <HexColorPicker color={colour} onChange={(next) => onChange(next.toLowerCase(), false)} />
              </div>
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
        <input
          id={id}
          className="num w-full min-w-0 bg-transparent outline-none"
          spellCheck={false}
          value={draft ?? colour}
          onFocus={(event) => event.currentTarget.select()}
          onChange={(event) => setDraft(event.target.value)}
          onBlur={finish}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key === 'Enter') finish();
            if (event.key === 'Escape') setDraft(null);
          }}
        />
      </div>
    </div>
  );
}
