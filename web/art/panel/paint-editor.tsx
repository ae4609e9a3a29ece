import {
  colourAt,
  type Gradient,
  type GradientStop,
  MIX_SPACES,
  type Paint,
  srgbOfHex,
} from '@keen-ridge/core/paint';
import { type PointerEvent, useRef, useState } from 'react';
import { cssOfPaint } from '../../planes/plane-thumbnail.tsx';
import { Button } from '../../ui/button.tsx';
import { Choice } from '../../ui/fields/choice.tsx';
import { ColourField } from '../../ui/fields/colour-field.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { Select } from '../../ui/fields/select.tsx';
import { arrowStep, useDrag } from '../../ui/pointer/drag.ts';
import { type BeginTrial, setOnce, trialDrag, trialOf } from '../../ui/trial.ts';
import { artWords as say } from '../../words/art.ts';

interface PaintEditorProps {
  paint: Paint;
  trial: BeginTrial<Paint>;
}

const KINDS = ['solid', 'linear', 'radial'] as const;
const KIND_WORDS = { solid: say.solid, linear: say.linear, radial: say.radial } as const;
const SPACE_WORDS = { oklab: say.oklab, srgb: say.srgb } as const;

/** A solid or a gradient: stops on a bar, each with its colour, place and opacity. */
export function PaintEditor({ paint, trial }: PaintEditorProps) {
  return (
    <div className="flex min-w-0 flex-col gap-2">
      <Choice
        label={say.kindOfPaint}
        hideLabel
        options={KINDS}
        words={KIND_WORDS}
        value={paint.kind}
        onChange={(kind) => setOnce(trial, asKind(paint, kind))}
      />
      {paint.kind === 'solid' ? (
        <div className="flex gap-2">
          <ColourField
            label={say.colour}
            colour={paint.colour}
            trial={trialOf(trial, (colour: string): Paint => ({ ...paint, colour }))}
          />
          <NumberField
            className="w-24"
            label={say.opacity}
            unit="%"
            min={0}
            max={100}
            value={paint.opacity * 100}
            trial={trialOf(trial, (v: number): Paint => ({ ...paint, opacity: v / 100 }))}
          />
        </div>
      ) : (
        <GradientFields paint={paint} trial={trial} />
      )}
    </div>
  );
}

/** A first gradient must be seen as one. */
const darker = (colour: string): string =>
  `#${srgbOfHex(colour)
    .map((v) =>
      Math.round(v * 0.55 * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;

/** The same colours as another kind of paint. */
function asKind(paint: Paint, kind: Paint['kind']): Paint {
  if (paint.kind === kind) return paint;
  const stops: readonly GradientStop[] =
    paint.kind === 'solid'
      ? [
          { at: 0, colour: paint.colour, opacity: paint.opacity },
          { at: 1, colour: darker(paint.colour), opacity: paint.opacity },
        ]
      : paint.stops;
  const space = paint.kind === 'solid' ? 'oklab' : paint.space;
  const first = stops[0] as GradientStop;
  if (kind === 'solid') return { kind, colour: first.colour, opacity: first.opacity };
  if (kind === 'linear') return { kind, angleDeg: 180, space, stops: [...stops] };
  return { kind, centreX: 0.5, centreY: 0.5, radius: 1, space, stops: [...stops] };
}

function GradientFields({ paint, trial }: { paint: Gradient; trial: BeginTrial<Paint> }) {
  const [chosen, setChosen] = useState(0);
  const index = Math.min(chosen, paint.stops.length - 1);
  const stop = paint.stops[index] as GradientStop;
  const withStop = (part: Partial<GradientStop>): Gradient => {
    const changed = paint.stops.map((s, i) => (i === index ? { ...s, ...part } : s));
    return { ...paint, stops: changed.toSorted((p, q) => p.at - q.at) };
  };
  const numbers =
    paint.kind === 'linear'
      ? ([['Angle', '°', 'angleDeg', 1, 15]] as const)
      : ([
          ['Centre E', '%', 'centreX', 100, 1],
          ['Centre S', '%', 'centreY', 100, 1],
          ['Radius', '%', 'radius', 100, 1],
        ] as const);
  return (
    <>
      <StopBar paint={paint} chosen={index} onChoose={setChosen} trial={trial} />
      <div className="flex flex-wrap items-end gap-2">
        <ColourField
          label={say.colourOfTheStop}
          colour={stop.colour}
          trial={trialOf(trial, (colour: string) => withStop({ colour }))}
        />
        <NumberField
          className="w-[74px]"
          label={say.at}
          unit="%"
          decimals={1}
          min={0}
          max={100}
          value={stop.at * 100}
          trial={trialOf(trial, (v: number) => withStop({ at: v / 100 }))}
        />
        <NumberField
          className="w-[74px]"
          label={say.opacity}
          unit="%"
          min={0}
          max={100}
          value={stop.opacity * 100}
          trial={trialOf(trial, (v: number) => withStop({ opacity: v / 100 }))}
        />
        <Button
          disabled={paint.stops.length <= 2}
          onClick={() => setOnce(trial, { ...paint, stops: paint.stops.filter((_, i) => i !== index) })}
        >
          {say.deleteStop}
        </Button>
      </div>
      <div className="flex flex-wrap items-end gap-2">
        {numbers.map(([label, unit, field, per, step]) => (
          <NumberField
            key={field}
            className="w-[82px]"
            label={label}
            unit={unit}
            step={step}
            min={field === 'radius' ? 1 : -1000}
            max={1000}
            value={Number(paint[field as keyof Gradient]) * per}
            trial={trialOf(trial, (v: number) => ({ ...paint, [field]: v / per }) as Gradient)}
          />
        ))}
        <Select
          label={say.mixedIn}
          className="w-24"
          options={MIX_SPACES}
          words={SPACE_WORDS}
          value={paint.space}
          onChange={(space) => setOnce(trial, { ...paint, space })}
        />
      </div>
    </>
  );
}

interface StopBarProps {
  paint: Gradient;
  chosen: number;
  onChoose: (index: number) => void;
  trial: BeginTrial<Paint>;
}

/** The gradient laid out straight: click it for a new stop, drag stops along it. */
function StopBar({ paint, chosen, onChoose, trial }: StopBarProps) {
  const bar = useRef<HTMLDivElement>(null);
  const atOf = ({ clientX }: { clientX: number }) => {
    const box = bar.current?.getBoundingClientRect();
    return box ? Math.min(1, Math.max(0, (clientX - box.left) / box.width)) : 0;
  };
  const add = (event: PointerEvent) => {
    const at = Math.round(atOf(event) * 1000) / 1000;
    const [r = 0, g = 0, b = 0, alpha = 1] = colourAt(paint.stops, paint.space, at);
    const hex = [r, g, b]
      .map((v) =>
        Math.round((alpha > 0 ? v / alpha : 0) * 255)
          .toString(16)
          .padStart(2, '0'),
      )
      .join('');
    const stops = [...paint.stops, { at, colour: `#${hex}`, opacity: alpha }].toSorted((p, q) => p.at - q.at);
    setOnce(trial, { ...paint, stops });
    onChoose(stops.findIndex((stop) => stop.at === at));
  };
  const flat: Paint = { kind: 'linear', angleDeg: 90, space: paint.space, stops: [...paint.stops] };
  return (
    <div className="relative h-8">
      <div
        ref={bar}
        data-testid="stop-bar"
        title={say.clickForANewStop}
        className="absolute inset-x-0 top-0 h-5 cursor-copy border border-rule"
        style={{
          background: `${cssOfPaint(flat)}, repeating-conic-gradient(#bbb 0 25%, #fff 0 50%) 0 / 10px 10px`,
        }}
        onPointerDown={add}
      />
      {paint.stops.map((_, i) => (
        <Stop
          // biome-ignore lint/suspicious/noArrayIndexKey: stops have no name but their place
          key={i}
          {...{ paint, index: i, chosen: i === chosen, atOf, trial }}
          onChoose={() => onChoose(i)}
        />
      ))}
    </div>
  );
}

interface StopProps {
  paint: Gradient;
  index: number;
  chosen: boolean;
  onChoose: () => void;
  atOf: (at: { clientX: number }) => number;
  trial: BeginTrial<Paint>;
}

const STOP_STEP = 0.01;

/** One colour of the gradient: dragged along it between its neighbours, or moved with the arrow keys. */
function Stop({ paint, index, chosen, onChoose, atOf, trial }: StopProps) {
  const stop = paint.stops[index] as GradientStop;
  const at = (to: number): Gradient => {
    const [low, high] = [paint.stops[index - 1]?.at ?? 0, paint.stops[index + 1]?.at ?? 1];
    const place = Math.min(high, Math.max(low, Math.round(to * 1000) / 1000));
    return { ...paint, stops: paint.stops.map((s, i) => (i === index ? { ...s, at: place } : s)) };
  };
  const drag = useDrag<HTMLButtonElement>(() => {
    onChoose();
    return trialDrag(trial, (to) => at(atOf(to)));
  });
  return (
    <button
      type="button"
      aria-label={say.stopValueAtValue(index + 1, Math.round(stop.at * 100))}
      aria-pressed={chosen}
      className={`absolute top-3.5 h-4 w-3 -translate-x-1/2 cursor-ew-resize touch-none rounded-[2px] border ${chosen ? 'border-2 border-select' : 'border-ink'}`}
      style={{ left: `${stop.at * 100}%`, background: stop.colour }}
      onKeyDown={(event) => {
        const by = arrowStep(event);
        if (!by?.x) return;
        event.preventDefault();
        setOnce(trial, at(stop.at + by.x * STOP_STEP));
      }}
      onFocus={onChoose}
      {...drag}
    />
  );
}
