import { bakeSway, setMove, usualSway } from '@keen-ridge/core/edits/camera';
import {
  canLoop,
  SWAY_AXES,
  type Sway,
  type SwayAxis,
  swayAt,
  swayMeasure,
} from '@keen-ridge/core/timing/moves';
import { rationalToNumber } from '@keen-ridge/core/units';
import { sceneTrial } from '../session/scene-trial.ts';
import { useSession, useSessionState, useShownScene } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Dock } from '../ui/dock.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { setOnce, trialOf } from '../ui/trial.ts';
import { moveWords as say } from '../words/move.ts';

const AXIS_WORDS: Readonly<Record<SwayAxis, { word: string; unit: string; decimals: number; step: number }>> =
  {
    panX: { word: 'E–W', unit: 'px', decimals: 1, step: 1 },
    panY: { word: 'N–S', unit: 'px', decimals: 1, step: 1 },
    truck: { word: say.truck, unit: 'px', decimals: 1, step: 1 },
    roll: { word: say.roll, unit: '°', decimals: 2, step: 0.05 },
  };

/** A seeded drift over the finished move: on or off without touching a key. */
export function SwayDock() {
  const session = useSession();
  const scene = useShownScene();
  const { sway } = scene.move;
  const current = sway ?? usualSway(scene);
  const loopable = canLoop(current, scene.lengthFrames, scene.rate);
  const leastHz = rationalToNumber(scene.rate) / scene.lengthFrames;
  const trial = sceneTrial<Partial<Sway>>(session, 'set-sway', 'the camera', (kept, part) =>
    setMove(kept, { sway: { ...(kept.move.sway ?? usualSway(kept)), ...part } }),
  );
  const set = (part: Partial<Sway>) => setOnce(trial, part);
  const field = (
    label: string,
    unit: string,
    value: number,
    part: (value: number) => Partial<Sway>,
    bounds: { decimals?: number; step?: number; min?: number; max?: number } = {},
  ) => (
    <NumberField
      key={label}
      label={label}
      unit={unit}
      value={value}
      min={0}
      {...bounds}
      trial={trialOf(trial, part)}
    />
  );
  return (
    <Dock id="sway" label={say.sway} on={sway?.on === true}>
      <div className="mb-3 flex flex-wrap gap-1">
        <Button on={sway?.on === true} onClick={() => set({ on: !(sway?.on ?? false) })}>
          {sway?.on ? say.on : say.off}
        </Button>
        <Button
          on={current.loops}
          disabled={!current.loops && !loopable}
          title={loopable ? say.frameAfterTheLastIs : say.cannotLoop(leastHz.toFixed(2))}
          onClick={() => set({ loops: !current.loops })}
        >
          {say.loops}
        </Button>
        <Button onClick={() => set({ seed: Math.floor(Math.random() * 1e6) })}>{say.another}</Button>
        <Button
          disabled={!sway?.on}
          title={say.makesKeysOfItWithin}
          onClick={() => session.commit('bake-sway', 'the camera', bakeSway(session.state.scene))}
        >
          {say.bakeToKeys}
        </Button>
      </div>
      <div className="grid grid-cols-4 gap-2">
        {SWAY_AXES.map((axis) => {
          const { word, unit, decimals, step } = AXIS_WORDS[axis];
          return field(
            word,
            unit,
            current.amplitude[axis],
            (v) => ({ amplitude: { ...current.amplitude, [axis]: v } }),
            {
              decimals,
              step,
              max: axis === 'roll' ? 360 : 1e6,
            },
          );
        })}
      </div>
      <div className="mt-2 grid grid-cols-4 gap-2">
        {field('Up to', 'Hz', current.frequencyHz, (frequencyHz) => ({ frequencyHz }), {
          decimals: 2,
          step: 0.1,
          min: 0.01,
          max: 100,
        })}
        {field('Seed', '', current.seed, (v) => ({ seed: Math.round(v) }), { max: 1e9 })}
        {!current.loops && (
          <>
            {field('Comes in', 'f', current.fadeInFrames, (v) => ({ fadeInFrames: Math.round(v) }), {
              max: 100_000,
            })}
            {field('Goes out', 'f', current.fadeOutFrames, (v) => ({ fadeOutFrames: Math.round(v) }), {
              max: 100_000,
            })}
          </>
        )}
      </div>
      {current.loops && !loopable && (
        <p role="alert" className="mt-2 text-[12px]">
          {say.cannotLoop(leastHz.toFixed(2))}
        </p>
      )}
      <SwayGhost sway={{ ...current, on: true }} />
      <p className="mt-2 text-[12px] text-ink-2">{say.oneTo2HzAnd}</p>
    </Dock>
  );
}

const SAMPLES = 200;
const [WIDTH, HEIGHT] = [286, 54] as const;

/** The drift of pan E–W and N–S over the shot. */
function SwayGhost({ sway }: { sway: Sway }) {
  const { lengthFrames, rate } = useSessionState((state) => state.scene);
  const most = Math.max(1e-9, sway.amplitude.panX, sway.amplitude.panY);
  const line = (axis: SwayAxis) =>
    Array.from({ length: SAMPLES + 1 }, (_, i) => {
      const frame = 1 + ((lengthFrames - 1) * i) / SAMPLES;
      const value = swayAt(sway, axis, frame, lengthFrames, rate) / most;
      return `${(i / SAMPLES) * WIDTH},${HEIGHT / 2 - value * (HEIGHT / 2 - 3)}`;
    }).join(' ');
  const { rms, peak } = swayMeasure(sway, 'panX', lengthFrames, rate);
  return (
    <>
      <svg width={WIDTH} height={HEIGHT} className="mt-3 block bg-panel">
        <title>{say.theSwayOverTheShot}</title>
        <line x1={0} x2={WIDTH} y1={HEIGHT / 2} y2={HEIGHT / 2} stroke="#c9c9c9" />
        <polyline points={line('panY')} fill="none" stroke="#5a5a5a" strokeWidth={1} />
        <polyline points={line('panX')} fill="none" stroke="var(--color-signal)" strokeWidth={1.5} />
      </svg>
      <p className="mt-1 font-mono text-[12px] text-ink-2">
        {say.swayComesTo(peak.toFixed(1), rms.toFixed(1))}
      </p>
    </>
  );
}
