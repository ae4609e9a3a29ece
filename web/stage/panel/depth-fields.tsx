import { flattenDepths, nearestDepthSpx, reverseDepths, scaleDepths } from '@keen-ridge/core/edits/depth';
import { setPlanesOpacity, setPlaneTransform } from '@keen-ridge/core/edits/planes';
import { leastScale } from '@keen-ridge/core/geometry';
import type { Plane, Scene } from '@keen-ridge/core/scene';
import { depthAtSpeed, distanceSpx, poseFor, speedAtDepth } from '@keen-ridge/core/stage';
import { cameraPoseAt, posedPlane, stageFrameOf, standingsAt } from '@keen-ridge/core/staging';
import { framePlan } from '@keen-ridge/core/staging/frame';
import { subjectOf, withDepth } from '../../edits/depth-edits.ts';
import { usePreferences } from '../../session/choices/preferences.ts';
import { useCalmFrame } from '../../session/pace/use-calm.ts';
import { sceneTrial } from '../../session/scene-trial.ts';
import { useSession } from '../../session/use-session.ts';
import { Button } from '../../ui/button.tsx';
import { NumberField } from '../../ui/fields/number-field.tsx';
import { stageWords as say } from '../../words/stage.ts';
import { common } from './common.ts';
import { MeasurePopover } from './measure-popover.tsx';

const LEAST_SPEED = 0.02;

/** How far the planes are, in every way that it is said: depth, speed, distance, slide and size. */
export function DepthFields({ planes, scene }: { planes: readonly Plane[]; scene: Scene }) {
  const session = useSession();
  const frame = useCalmFrame();
  const holdPicture = usePreferences((state) => state.holdPicture);
  const ids = planes.map((plane) => plane.id);
  const home = scene.homeDistanceSpx;
  const standings = standingsAt(scene, frame);
  const camera = cameraPoseAt(scene, frame);
  const [only] = planes;
  const depthOf = (plane: Plane) => standings.get(plane.id)!.depthSpx;
  const poseOf = (plane: Plane) => poseFor(stageFrameOf(scene), camera, standings.get(plane.id)!.root);
  const zOf = only ? poseOf(only).zSpx : -home;
  const datumDistance = Math.max(1e-6, distanceSpx(camera, 0));
  const field = (toDepth: (value: number) => number) =>
    sceneTrial<number>(session, 'set-depth', subjectOf(scene, ids), (kept, value) =>
      withDepth(kept, ids, toDepth(value), frame, holdPicture),
    );
  return (
    <div className="flex gap-2">
      <div className="grid min-w-0 flex-1 grid-cols-3 gap-2 @[540px]:grid-cols-6">
        <NumberField
          label={say.depth}
          unit="px"
          signed
          value={common(planes, depthOf)}
          step={10}
          min={nearestDepthSpx(scene)}
          max={1e7}
          trial={field((v) => v)}
        />
        <NumberField
          label={say.speed}
          unit="%"
          decimals={1}
          min={LEAST_SPEED}
          max={9900}
          value={common(planes, (p) => speedAtDepth(depthOf(p), home) * 100)}
          context={{ hundredPercent: 100 }}
          trial={field((v) => depthAtSpeed(Math.max(v, LEAST_SPEED) / 100, home))}
        />
        <NumberField
          label={say.fromCamera}
          unit="px"
          value={common(planes, (p) => distanceSpx(poseOf(p), depthOf(p)))}
          step={10}
          trial={field((v) => v + zOf)}
        />
        <NumberField
          label={say.slidesPerFull}
          unit="px"
          decimals={1}
          min={LEAST_SPEED}
          max={99_000}
          value={common(planes, (p) => (datumDistance / distanceSpx(camera, depthOf(p))) * 100)}
          trial={field((v) => datumDistance / (Math.max(v, LEAST_SPEED) / 100) + camera.zSpx)}
        />
        {planes.length === 1 && only ? (
          <OnScreenField plane={only} scene={scene} />
        ) : (
          <StrengthField ids={ids} scene={scene} />
        )}
        <NumberField
          label={say.opacity}
          unit="%"
          min={0}
          max={100}
          value={common(planes, (p) => Math.round(p.opacity * 1000) / 10)}
          context={{ hundredPercent: 100 }}
          trial={sceneTrial(session, 'set-opacity', subjectOf(scene, ids), (kept, v) =>
            setPlanesOpacity(kept, new Set(ids), v / 100),
          )}
        />
      </div>
      <div className="flex shrink-0 items-end gap-1.5">
        {planes.length === 1 && only ? (
          <MeasurePopover id={only.id} name={only.name} />
        ) : (
          <DepthCommands ids={ids} />
        )}
      </div>
    </div>
  );
}

/** How large its art is seen now; typing another size sizes the plane, not its depth. */
function OnScreenField({ plane, scene }: { plane: Plane; scene: Scene }) {
  const session = useSession();
  const frame = useCalmFrame();
  const map = framePlan(scene, frame).planes.find(({ planeId }) => planeId === plane.id)?.artToFrame;
  const now = map ? leastScale(map) : null;
  const { scaleX, scaleY } = posedPlane(plane, frame).transform;
  return (
    <NumberField
      label={say.shownAt}
      unit="×"
      decimals={3}
      step={0.01}
      min={0.0001}
      max={1e4}
      value={now}
      trial={sceneTrial(session, 'place-plane', plane.name, (kept, v) => {
        const ratio = v / (now ?? v);
        const size = { scaleX: scaleX * ratio, scaleY: scaleY * ratio };
        return setPlaneTransform(kept, plane.id, size, frame);
      })}
    />
  );
}

type Ids = readonly Plane['id'][];

function StrengthField({ ids, scene }: { ids: Ids; scene: Scene }) {
  const session = useSession();
  const frame = useCalmFrame();
  const holdPicture = usePreferences((state) => state.holdPicture);
  return (
    <NumberField
      label={say.scaleDepths}
      unit="%"
      min={1}
      max={1000}
      value={100}
      trial={sceneTrial(session, 'scale-depths', subjectOf(scene, ids), (kept, v) =>
        scaleDepths(kept, new Set(ids), v / 100, { atFrame: frame, holdPicture }),
      )}
    />
  );
}

function DepthCommands({ ids }: { ids: Ids }) {
  const session = useSession();
  const holdPicture = usePreferences((state) => state.holdPicture);
  const run = (action: 'flatten-depths' | 'reverse-depths', change: typeof flattenDepths) => () => {
    const { scene, frame } = session.state;
    const next = change(scene, new Set(ids), { atFrame: frame, holdPicture });
    session.commit(action, subjectOf(scene, ids), next);
  };
  return (
    <>
      <Button title={say.allToTheDepthOf} onClick={run('flatten-depths', flattenDepths)}>
        {say.flatten}
      </Button>
      <Button title={say.nearBecomesFar} onClick={run('reverse-depths', reverseDepths)}>
        {say.reverse}
      </Button>
    </>
  );
}
