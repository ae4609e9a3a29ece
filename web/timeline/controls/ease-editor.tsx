import { type Ease, easeProgress } from '@keen-ridge/core/timing';
import type { KeyboardEvent } from 'react';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { arrowStep, useDrag } from '../../ui/pointer/drag.ts';
import { type BeginTrial, setOnce, trialDrag, trialOf } from '../../ui/trial.ts';
import { timelineWords as say } from '../../words/timeline.ts';

type Curve = Extract<Ease, { kind: 'bezier' }>;
const EVEN: Curve = { kind: 'bezier', x1: 1 / 3, y1: 1 / 3, x2: 2 / 3, y2: 2 / 3 };

const [WIDTH, HEIGHT, PAD] = [284, 190, 14] as const;
/** What of value the drawing shows: room above and below for overshoot. */
const [LOW, HIGH] = [-0.5, 1.5] as const;
const xOf = (t: number) => PAD + t * (WIDTH - 2 * PAD);
const yOf = (v: number) => PAD + ((HIGH - v) / (HIGH - LOW)) * (HEIGHT - 2 * PAD);
const SAMPLES = 64;

interface EaseEditorProps {
  ease: Ease;
  /** Handles may leave the values between the keys. */
  overshoot: boolean;
  trial: BeginTrial<Ease>;
}

/** A curve of one's own: value (line) and speed (filled) over the span, shaped by two handles or their numbers. */
export function EaseEditor({ ease, overshoot, trial }: EaseEditorProps) {
  const curve = ease.kind === 'bezier' ? ease : EVEN;
  const drawn = ease.kind === 'hold' ? ease : curve;
  const values = Array.from({ length: SAMPLES + 1 }, (_, i) => easeProgress(drawn, i / SAMPLES));
  const speeds = values.slice(1).map((v, i) => Math.abs(v - values[i]!) * SAMPLES);
  const fastest = Math.max(1.5, ...speeds);
  const speedY = (speed: number) => HEIGHT - PAD - (speed / fastest) * (HEIGHT - 2 * PAD) * 0.6;
  const within = (next: Curve): Curve => {
    const [low, high] = overshoot ? [-10, 10] : [0, 1];
    const [x, y] = [
      (v: number) => Math.min(1, Math.max(0, v)),
      (v: number) => Math.min(high, Math.max(low, v)),
    ];
    return { kind: 'bezier', x1: x(next.x1), y1: y(next.y1), x2: x(next.x2), y2: y(next.y2) };
  };
  const number = (name: 'x1' | 'y1' | 'x2' | 'y2', label: string) => (
    <NumberField
      label={label}
      unit=""
      decimals={3}
      step={0.01}
      value={curve[name]}
      trial={trialOf(trial, (value: number): Ease => within({ ...curve, [name]: value }))}
    />
  );
  return (
    <>
      <svg width={WIDTH} height={HEIGHT} className="block touch-none bg-panel" data-testid="ease-editor">
        <title>{say.valueAndSpeedOverThe}</title>
        <rect
          x={xOf(0)}
          y={yOf(1)}
          width={xOf(1) - xOf(0)}
          height={yOf(0) - yOf(1)}
          fill="var(--color-raised)"
          stroke="var(--color-rule)"
        />
        <polygon
          points={`${xOf(0)},${HEIGHT - PAD} ${speeds.map((s, i) => `${xOf((i + 0.5) / SAMPLES)},${speedY(s)}`).join(' ')} ${xOf(1)},${HEIGHT - PAD}`}
          fill="var(--color-signal)"
          fillOpacity={0.22}
        />
        <polyline
          points={values.map((v, i) => `${xOf(i / SAMPLES)},${yOf(v)}`).join(' ')}
          fill="none"
          stroke="var(--color-ink)"
          strokeWidth={2}
        />
        <Handle n={1} curve={curve} within={within} trial={trial} />
        <Handle n={2} curve={curve} within={within} trial={trial} />
        <text x={xOf(0) + 4} y={yOf(1) + 13} fill="var(--color-ink-2)" fontSize={11}>
          {say.value}
        </text>
        <text x={xOf(1) - 4} y={HEIGHT - PAD - 4} fill="var(--color-signal)" fontSize={11} textAnchor="end">
          {say.speed}
        </text>
      </svg>
      <div className="mt-2 grid grid-cols-4 gap-1.5">
        {number('x1', 'x1')}
        {number('y1', 'y1')}
        {number('x2', 'x2')}
        {number('y2', 'y2')}
      </div>
      {!overshoot && <p className="mt-2 text-[12px] text-ink-2">{say.aShareCannotOvershootHandles}</p>}
    </>
  );
}

interface HandleProps extends Omit<EaseEditorProps, 'ease' | 'overshoot'> {
  n: 1 | 2;
  curve: Curve;
  within: (curve: Curve) => Curve;
}

const STEP = 0.02;

function Handle({ n, curve, within, trial }: HandleProps) {
  const [x, y] = n === 1 ? [curve.x1, curve.y1] : [curve.x2, curve.y2];
  const end = n === 1 ? 0 : 1;
  const put = (px: number, py: number): Curve =>
    within(n === 1 ? { ...curve, x1: px, y1: py } : { ...curve, x2: px, y2: py });
  const drag = useDrag<SVGCircleElement>(
    () =>
      trialDrag(trial, ({ dx, dy }) =>
        put(x + dx / (WIDTH - 2 * PAD), y - (dy / (HEIGHT - 2 * PAD)) * (HIGH - LOW)),
      ),
    { slackPx: 1 },
  );
  const onKeyDown = (event: KeyboardEvent) => {
    const by = arrowStep(event);
    if (!by) return;
    event.preventDefault();
    setOnce(trial, put(x + by.x * STEP, y - by.y * STEP));
  };
  return (
    <>
      <line
        x1={xOf(end)}
        y1={yOf(end)}
        x2={xOf(x)}
        y2={yOf(y)}
        stroke="var(--color-select)"
        strokeWidth={1.5}
      />
      <circle
        role="slider"
        tabIndex={0}
        aria-label={n === 1 ? say.handleAtTheStart : say.handleAtTheEnd}
        aria-valuetext={`${x.toFixed(2)}, ${y.toFixed(2)}`}
        aria-valuenow={x}
        cx={xOf(x)}
        cy={yOf(y)}
        r={6}
        fill="var(--color-select)"
        className="cursor-move touch-none"
        {...drag}
        onKeyDown={onKeyDown}
      />
    </>
  );
}
