import { type Ease, easeProgress } from '@keen-ridge/core/timing';
import { X } from 'lucide-react';
import { useState } from 'react';
import { useEases, useKeepEase, useTakeEaseOff } from '../../api/takes.ts';
import { Button } from '../../ui/button.tsx';
import { TextField } from '../../ui/fields/text-field.tsx';
import { Popover } from '../../ui/popover.tsx';
import { timelineWords as say } from '../../words/timeline.ts';

interface EaseShelfProps {
  /** The ease of the chosen spans where they have one in common. */
  ease: Ease | null;
  onApply: (ease: Ease) => void;
  disabled: boolean;
}

/** The artist's own eases: kept here across all productions, laid on the chosen spans with a click. */
export function EaseShelf({ ease, onApply, disabled }: EaseShelfProps) {
  const [name, setName] = useState('');
  const eases = useEases();
  const keep = useKeepEase();
  const takeOff = useTakeEaseOff();
  const kept = eases.data?.eases ?? [];
  const canKeep = ease !== null && name.trim() !== '';
  const keepIt = () => {
    if (!canKeep || !ease) return;
    keep.mutate({ name: name.trim(), ease });
    setName('');
  };
  return (
    <Popover label={say.shelf} disabled={disabled}>
      {eases.isError && <p className="text-fault">{say.theShelfCouldNotBe(eases.error.message)}</p>}
      {kept.length === 0 && !eases.isError && <p className="mb-3 text-ink-2">{say.noEasesOfYourOwn}</p>}
      <ul className="mb-3 max-h-56 overflow-auto">
        {kept.map((one) => (
          <li key={one.id} className="flex items-center gap-1">
            <button
              type="button"
              className="flex min-w-0 flex-1 cursor-pointer items-center gap-2 rounded-[3px] px-1 py-1 text-left hover:bg-select-wash"
              onClick={() => onApply(one.ease)}
            >
              <EaseGlyph ease={one.ease} />
              <span className="truncate">{one.name}</span>
            </button>
            <Button
              tone="bare"
              icon
              aria-label={say.takeNameOffTheShelf(one.name)}
              onClick={() => takeOff.mutate(one.id)}
            >
              <X size={13} aria-hidden="true" />
            </Button>
          </li>
        ))}
      </ul>
      <div className="flex items-end gap-1.5">
        <div className="min-w-0 flex-1">
          <TextField
            label={ease ? say.keepThisEaseAs : say.chooseSpansOfOneEase}
            value={name}
            maxLength={200}
            disabled={!ease}
            style={{ height: 26 }}
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => event.key === 'Enter' && keepIt()}
          />
        </div>
        <Button disabled={!canKeep} onClick={keepIt}>
          {say.keep}
        </Button>
      </div>
    </Popover>
  );
}

const SIZE = { width: 30, height: 20 };

function EaseGlyph({ ease }: { ease: Ease }) {
  const points = Array.from({ length: 25 }, (_, i) => {
    const t = i / 24;
    return `${2 + t * (SIZE.width - 4)},${SIZE.height - 4 - easeProgress(ease, t) * (SIZE.height - 8)}`;
  });
  return (
    <svg {...SIZE} aria-hidden="true" className="shrink-0 bg-panel">
      <polyline points={points.join(' ')} fill="none" stroke="var(--color-ink)" strokeWidth={1.5} />
    </svg>
  );
}
