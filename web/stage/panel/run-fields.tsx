import {
  runBetween,
  runSpeedAt,
  runWorld,
  setPlanesRepeat,
  setRunSpeed,
  setRunUnit,
  stopRuns,
  worldPlanes,
} from '@keen-ridge/core/edits/runs';
import { type Plane, REPEATS, type Repeat, type Scene } from '@keen-ridge/core/scene';
import { keysOf } from '@keen-ridge/core/scene/records';
import { useState } from 'react';
import { subjectOf } from '../../edits/depth-edits.ts';
import { usePreferences } from '../../session/choices/preferences.ts';
import { useCalmFrame } from '../../session/pace/use-calm.ts';
import { sceneTrial } from '../../session/scene-trial.ts';
import { useSession, useSessionState } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { Dock } from '../../ui/dock.tsx';
import { Choice } from '../../ui/fields/choice.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { formatNumber } from '../../ui/format.ts';
import { settingTrial } from '../../ui/trial.ts';
import { stageWords as say } from '../../words/stage.ts';
import { SeamDialog } from '../seam/seam-dialog.tsx';
import { common } from './common.ts';

const REPEAT_WORDS: Readonly<Record<Repeat, string>> = {
  none: say.off,
  across: 'E–W',
  down: 'N–S',
  both: say.both,
};
const UNIT_WORDS = { datum: say.asOnTheDatum, own: say.asItIsSeen } as const;
const LIMIT = { min: -1e5, max: 1e5 };

/** How planes are tiled and slide by themselves. */
export function RunFields({ planes, scene }: { planes: readonly Plane[]; scene: Scene }) {
  const session = useSession();
  const frame = useCalmFrame();
  const keying = usePreferences((state) => state.keying);
  const ids = new Set(planes.map(({ id }) => id));
  const subject = subjectOf(scene, [...ids]);
  const [first] = planes;
  const unit = first?.run?.kind === 'speed' ? first.run.unit : 'datum';
  const repeat = first && planes.every((plane) => plane.repeat === first.repeat) ? first.repeat : 'none';
  const speed = (axis: 'x' | 'y') => ({
    value: common(planes, (plane) => runSpeedAt(scene, plane, frame)[unit][axis]),
    trial: sceneTrial(session, 'set-run', subject, (kept, v) =>
      setRunSpeed(kept, ids, { [axis]: v, unit }, { frame, keying: keying && isKeyed(planes) }),
    ),
  });
  return (
    <>
      <div className="flex flex-wrap items-end gap-2">
        <div className="w-52 shrink-0">
          <Choice
            label={say.repeatWithoutEnd}
            options={REPEATS}
            words={REPEAT_WORDS}
            value={repeat}
            onChange={(chosen) =>
              session.commit('set-repeat', subject, setPlanesRepeat(session.state.scene, ids, chosen))
            }
          />
        </div>
        <NumberField
          className="w-24 shrink-0"
          label={say.runsEast}
          unit="px/f"
          decimals={2}
          signed
          {...LIMIT}
          {...speed('x')}
        />
        <NumberField
          className="w-24 shrink-0"
          label={say.runsSouth}
          unit="px/f"
          decimals={2}
          signed
          {...LIMIT}
          {...speed('y')}
        />
        <div className="w-48 shrink-0">
          <Choice
            label={say.speedsGiven}
            options={['datum', 'own'] as const}
            words={UNIT_WORDS}
            value={unit}
            onChange={(chosen) =>
              session.commit('set-run', subject, setRunUnit(session.state.scene, ids, chosen))
            }
          />
        </div>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-1.5">
        <WorldDock />
        <StartStop planes={planes} />
        {planes.length === 1 && first && first.repeat !== 'none' && <SeamDialog plane={first} />}
        {planes.some((plane) => plane.run) && (
          <Button onClick={() => session.commit('set-run', subject, stopRuns(session.state.scene, ids))}>
            {say.standStill}
          </Button>
        )}
        <RunWords plane={first} scene={scene} frame={frame} />
      </div>
    </>
  );
}

const isKeyed = (planes: readonly Plane[]): boolean =>
  planes.some(({ run }) => run?.kind === 'speed' && (keysOf(run.x).length > 0 || keysOf(run.y).length > 0));

function RunWords({ plane, scene, frame }: { plane: Plane | undefined; scene: Scene; frame: number }) {
  if (!plane?.run) return null;
  const { own } = runSpeedAt(scene, plane, frame);
  const seen = `${formatNumber(Math.hypot(own.x, own.y), 2)} px a frame on screen`;
  const { run } = plane;
  const closes =
    run.kind === 'cycle'
      ? `, ${Math.abs(run.timesX || run.timesY)}× its own length in ${run.frames} frames`
      : isKeyed([plane])
        ? ', by its keys'
        : '';
  return <p className="narrow truncate text-[12.5px]">{`${seen}${closes}.`}</p>;
}

/** One number for everything that runs past: a figure that walks on the spot seems to travel. */
function WorldDock() {
  const session = useSession();
  const scene = useSessionState((state) => state.scene);
  const [speed, setSpeed] = useState(12);
  const count = worldPlanes(scene).length;
  const run = (way: 1 | -1) => () =>
    session.commit(
      'run-world',
      `${formatNumber(speed * way, 1, true)} px a frame`,
      runWorld(session.state.scene, speed * way),
    );
  return (
    <Dock id="world" label={say.runTheWorld}>
      <NumberField
        label={say.atOnTheDatum}
        unit="px/f"
        decimals={1}
        min={0}
        max={10_000}
        value={speed}
        trial={settingTrial(speed, setSpeed)}
      />
      <p className="mt-2 text-[12px] text-ink-2">
        {count === 0
          ? say.nothingRepeatsEWOr
          : say.drivesCountValueThatRepeat(count, count === 1 ? 'plane' : 'planes')}
      </p>
      <div className="mt-2 flex gap-2">
        <Button disabled={count === 0} onClick={run(-1)}>
          {say.toTheWest}
        </Button>
        <Button disabled={count === 0} onClick={run(1)}>
          {say.toTheEast}
        </Button>
      </div>
    </Dock>
  );
}

function StartStop({ planes }: { planes: readonly Plane[] }) {
  const session = useSession();
  const { lengthFrames } = useSessionState((state) => state.scene);
  const [start, setStart] = useState(1);
  const [stop, setStop] = useState(lengthFrames);
  const [ramp, setRamp] = useState(0);
  const ids = new Set(planes.map(({ id }) => id));
  const runs = planes.some((plane) => plane.run);
  return (
    <Dock id="start-stop" label={say.startAndStop} disabled={!runs}>
      <div className="grid grid-cols-3 gap-2">
        <NumberField label={say.starts} unit="f" min={1} max={200_000} value={start} onCommit={setStart} />
        <NumberField label={say.stops} unit="f" min={1} max={200_000} value={stop} onCommit={setStop} />
        <NumberField label={say.ramp} unit="f" min={0} max={10_000} value={ramp} onCommit={setRamp} />
      </div>
      <p className="mt-2 text-[12px] text-ink-2">{say.stillBeforeAndAfterWith}</p>
      <div className="mt-2">
        <Button
          disabled={stop <= start}
          onClick={() => {
            const { scene } = session.state;
            const next = runBetween(scene, ids, {
              start: Math.round(start),
              stop: Math.round(stop),
              ramp: Math.round(ramp),
            });
            session.commit('set-run', subjectOf(scene, [...ids]), next);
          }}
        >
          {say.keyIt}
        </Button>
      </div>
    </Dock>
  );
}
