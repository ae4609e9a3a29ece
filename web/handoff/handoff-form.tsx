import { type HandoffAsked, patternWords, usualPattern } from '@keen-ridge/core/contract';
import {
  checkPattern,
  countFault,
  HANDOFF_FORMATS,
  HANDOFF_KINDS,
  type HandoffItem,
  handoffItems,
  listWords,
  namesFault,
  sizeFault,
  sizeWords,
} from '@keen-ridge/core/export';
import { planesOf } from '@keen-ridge/core/scene/records';
import { secondsOfFrames } from '@keen-ridge/core/timing';
import { rationalText } from '@keen-ridge/core/units';
import { RadioGroup } from 'radix-ui';
import { type KeyboardEvent, useId, useState } from 'react';
import { useTakes } from '../api/takes.ts';
import { askHandoff, useHandoffChange } from '../api/use-handoffs.ts';
import { type HandoffSettings, setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { ColourField } from '../ui/fields/colour-field.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { TextField } from '../ui/fields/text-field.tsx';
import { formatSeconds } from '../ui/format.ts';
import { settingTrial } from '../ui/trial.ts';
import { KIND_WORDS } from './kind-words.ts';

const GROUND_WORDS = { clear: 'Clear', black: 'Black', colour: 'Colour' } as const;
const DEPTH_WORDS = { 8: '8 bit', 16: '16 bit' } as const;
const PLANES_WORDS = { together: 'Together', each: 'Each plane alone' } as const;
const TARGET_WORDS = { zip: 'Zip', folder: 'Folder' } as const;
const SIZES = ['25', '50', '100', '200'] as const;
const SIZE_WORDS = { '25': '25 %', '50': '50 %', '100': '100 %', '200': '200 %' } as const;

const keep = (part: Partial<HandoffSettings>) =>
  setPreferences({ handoff: { ...usePreferences.getState().handoff, ...part } });

/** Everything that can be said of a hand-off before it begins, with its limits and names looked at at once. */
export function HandoffForm({ filmReady }: { filmReady: boolean }) {
  const { shot } = useSession();
  const scene = useSessionState((state) => state.scene);
  const saveState = useSessionState((state) => state.saveState);
  const settings = usePreferences((state) => state.handoff);
  const [range, setRange] = useState<{ firstFrame: number; lastFrame: number } | null>(null);
  const [pattern, setPattern] = useState<string | null>(null);
  const [startAt, setStartAt] = useState<number | null>(null);
  const [take, setTake] = useState('');
  const takes = useTakes(shot.id);
  const keptTakes = useId();
  const start = useHandoffChange(shot.id, askHandoff(shot.id));
  const { kind } = settings;
  const format = HANDOFF_FORMATS[kind];
  const lastFrame = Math.min(range?.lastFrame ?? scene.lengthFrames, scene.lengthFrames);
  const firstFrame = Math.min(range?.firstFrame ?? 1, lastFrame);
  const isFrames = format.made === 'frames';
  const planes = isFrames ? settings.planes : 'together';
  const request = {
    kind,
    firstFrame,
    lastFrame,
    handles: settings.handles,
    scale: settings.scalePercent / 100,
    ground: groundAsked(settings, format.alpha),
    depth: format.depths.includes(settings.depth) ? settings.depth : 8,
    planes,
    target: isFrames ? settings.target : 'zip',
    names: {
      pattern: pattern ?? usualPattern(planes),
      startAt: startAt ?? neededStart(firstFrame, settings.handles),
    },
    take,
    burnIn: settings.burnIn,
  } satisfies HandoffAsked;
  const checked = checkPattern(request.names.pattern, planes === 'each');
  const size = {
    widthPx: Math.max(1, Math.round(scene.frame.widthPx * request.scale)),
    heightPx: Math.max(1, Math.round(scene.frame.heightPx * request.scale)),
  };
  const tooMany = countFault(scene, request);
  const items = checked.ok && !tooMany ? handoffItems(scene, shot.name, request) : [];
  const needsTool = format.made === 'film' && !filmReady;
  const blocked = whyBlocked();

  function whyBlocked(): string | null {
    if (planesOf(scene).length === 0) return 'There is nothing on the stage to hand off.';
    if (saveState !== 'saved') return 'Waiting until everything is saved …';
    if (!checked.ok) return 'The pattern of the names does not hold.';
    const tooLarge = sizeFault(kind, size.widthPx, size.heightPx);
    if (tooLarge) return sizeWords(kind, size.widthPx, size.heightPx, tooLarge);
    const fault = tooMany ?? (format.made === 'frames' ? namesFault(items) : null);
    if (fault) return listWords(fault);
    if (items.length > format.mostFrames) return `It holds ${format.mostFrames} frames at most.`;
    return null;
  }

  return (
    <form
      aria-label="New hand-off"
      onSubmit={(event) => {
        event.preventDefault();
        start.mutate(request);
      }}
    >
      <h1 className="text-[14px] font-semibold">Hand-off</h1>
      <RadioGroup.Root
        value={kind}
        aria-label="What to hand off"
        className="mt-2.5 grid grid-cols-2 gap-1.5"
        onValueChange={(value) => keep({ kind: HANDOFF_KINDS.find((known) => known === value) ?? 'png' })}
      >
        {HANDOFF_KINDS.map((value) => (
          <RadioGroup.Item
            key={value}
            value={value}
            className="cursor-pointer rounded-[3px] border border-rule bg-raised px-2.5 py-1.5 text-left data-[state=checked]:border-select data-[state=checked]:bg-select-wash"
          >
            <span className="block font-semibold">{KIND_WORDS[value].word}</span>
            <span className="narrow block text-[12px] text-ink-2">{KIND_WORDS[value].means}</span>
          </RadioGroup.Item>
        ))}
      </RadioGroup.Root>

      <div className="mt-3 grid grid-cols-3 gap-2.5">
        <NumberField
          label="First frame"
          unit="f"
          value={firstFrame}
          min={1}
          max={scene.lengthFrames}
          onCommit={(v) =>
            setRange({ firstFrame: Math.round(v), lastFrame: Math.max(lastFrame, Math.round(v)) })
          }
        />
        <NumberField
          label="Last frame"
          unit="f"
          value={lastFrame}
          min={1}
          max={scene.lengthFrames}
          onCommit={(v) =>
            setRange({ firstFrame: Math.min(firstFrame, Math.round(v)), lastFrame: Math.round(v) })
          }
        />
        <NumberField
          label="Handles at both ends"
          unit="f"
          value={settings.handles}
          min={0}
          max={500}
          onCommit={(v) => keep({ handles: Math.round(v) })}
        />
      </div>
      <div className="mt-3 grid grid-cols-2 gap-x-4 gap-y-3">
        <div>
          <Choice
            label="Size"
            options={SIZES}
            words={SIZE_WORDS}
            value={SIZES.find((percent) => Number(percent) === settings.scalePercent) ?? '100'}
            onChange={(percent) => keep({ scalePercent: Number(percent) })}
          />
        </div>
        {format.depths.length > 1 && (
          <div>
            <Choice
              label="Depth"
              options={['8', '16'] as const}
              words={DEPTH_WORDS}
              value={settings.depth === 16 ? '16' : '8'}
              onChange={(depth) => keep({ depth: depth === '16' ? 16 : 8 })}
            />
          </div>
        )}
        <div className="flex items-end gap-2">
          <div className="flex-1">
            <Choice
              label="Where the stage is empty"
              options={
                format.alpha ? (['clear', 'black', 'colour'] as const) : (['black', 'colour'] as const)
              }
              words={GROUND_WORDS}
              value={settings.ground === 'clear' && !format.alpha ? 'black' : settings.ground}
              onChange={(ground) => keep({ ground })}
            />
          </div>
        </div>
        {settings.ground === 'colour' && (
          <ColourField
            label="Colour of the ground"
            colour={settings.groundColour}
            trial={settingTrial(settings.groundColour, (groundColour) => keep({ groundColour }))}
          />
        )}
        {isFrames && (
          <>
            <div>
              <Choice
                label="Planes"
                options={['together', 'each'] as const}
                words={PLANES_WORDS}
                value={settings.planes}
                onChange={(chosen) => keep({ planes: chosen })}
              />
            </div>
            <div>
              <Choice
                label="Into a"
                options={['zip', 'folder'] as const}
                words={TARGET_WORDS}
                value={settings.target}
                onChange={(target) => keep({ target })}
              />
            </div>
          </>
        )}
      </div>
      {isFrames && (
        <div className="mt-3 grid grid-cols-[1fr_120px] items-end gap-2.5">
          <TextField
            label="Names of the files"
            className="num h-[26px] w-full rounded-[3px] border border-rule bg-raised px-1.5"
            spellCheck={false}
            maxLength={200}
            value={request.names.pattern}
            fault={checked.ok ? undefined : patternWords(checked.error)}
            onChange={(event) => setPattern(event.target.value === '' ? null : event.target.value)}
            onKeyDown={settleOnEnter}
          />
          <NumberField
            label="Counting from"
            unit=""
            min={0}
            max={9_999_999}
            value={request.names.startAt ?? firstFrame - settings.handles}
            onCommit={(v) => setStartAt(Math.round(v))}
          />
        </div>
      )}
      <div className="mt-3 flex items-end gap-2.5">
        <div className="flex-1">
          <TextField
            label="Take"
            className="h-[26px] w-full rounded-[3px] border border-rule bg-raised px-1.5"
            placeholder="none"
            maxLength={200}
            list={keptTakes}
            value={take}
            onChange={(event) => setTake(event.target.value)}
            onKeyDown={settleOnEnter}
          />
          <datalist id={keptTakes}>
            {[...new Set(takes.data?.takes.map(({ name }) => name))].map((name) => (
              <option key={name} value={name} />
            ))}
          </datalist>
        </div>
        <Button on={settings.burnIn} onClick={() => keep({ burnIn: !settings.burnIn })}>
          Burn in shot, take and frame
        </Button>
      </div>
      {isFrames && <Names items={items} />}
      <p className="num mt-2 leading-relaxed text-ink-2">
        {items.length} pictures · {formatSeconds(secondsOfFrames(lastFrame - firstFrame + 1, scene.rate))} at{' '}
        {rationalText(scene.rate)} · {size.widthPx} × {size.heightPx} px
      </p>
      {needsTool && (
        <p role="alert" className="mt-2 text-fault">
          Films need ffmpeg on this machine: sudo apt-get install ffmpeg, then reload.
        </p>
      )}
      {start.isError && (
        <p role="alert" className="mt-2 text-fault">
          {start.error.message}
        </p>
      )}
      {blocked && <p className="mt-2 text-ink-2">{blocked}</p>}
      <Button
        type="submit"
        tone="strong"
        className="mt-3 h-8 w-full"
        disabled={blocked !== null || start.isPending || needsTool}
      >
        Hand off {items.length} {items.length === 1 ? 'frame' : 'frames'}
      </Button>
    </form>
  );
}

/** Handles may begin before frame 0, which no file name counts. */
const neededStart = (firstFrame: number, handles: number): number | null =>
  firstFrame - handles < 0 ? 0 : null;

const groundAsked = ({ ground, groundColour }: HandoffSettings, alpha: boolean): string =>
  ground === 'colour' ? groundColour : ground === 'clear' && alpha ? 'clear' : '#000000';

/** Enter settles a text; it must not send the form that the field stands in. */
const settleOnEnter = (event: KeyboardEvent) => {
  event.stopPropagation();
  if (event.key === 'Enter') event.preventDefault();
};

/** The first and last name that will come of the pattern. */
function Names({ items }: { items: readonly HandoffItem[] }) {
  const [first, last] = [items[0], items.at(-1)];
  if (!first || !last) return null;
  return (
    <p className="num mt-2 truncate text-ink-2" title={`${first.name}.png … ${last.name}.png`}>
      {first.name}.png{items.length > 1 && ` … ${last.name}.png`}
    </p>
  );
}
