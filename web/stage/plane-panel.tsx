import {
  cameraPoseAt,
  nearestDepthSpx,
  nudgePlanes,
  type Plane,
  type Scene,
  setPlaneMount,
  setPlanesLocked,
  setPlanesOpacity,
  setPlaneTransform,
  stageFrameOf,
} from '@keen-ridge/core/document';
import { depthAtSpeed, distanceSpx, homePose, speedAtDepth } from '@keen-ridge/core/stage';
import { usePreferences } from '../state/preferences.ts';
import { useSession, useSessionState, useShownScene } from '../state/use-session.ts';
import { Button } from '../ui/button.tsx';
import { NumberField } from '../ui/number-field.tsx';
import { subjectOf, withDepth } from './depth-edits.ts';
import { PlaneSentence } from './plane-sentence.tsx';

/** The value that all planes share, or null when they differ. */
function common(planes: readonly Plane[], value: (plane: Plane) => number): number | null {
  const [first, ...rest] = planes.map(value);
  return first !== undefined && rest.every((v) => v === first) ? first : null;
}

/** The numbers of the selected planes, each typed, dragged or stepped, and what they mean. */
export function PlanePanel() {
  const scene = useShownScene();
  const selection = useSessionState((state) => state.selection);
  const planes = scene.planes.filter((plane) => selection.includes(plane.id));
  if (planes.length === 0) {
    return (
      <p className="h-[117px] shrink-0 px-3.5 py-4 text-ink-2">
        {scene.planes.length === 0
          ? 'Planes and their numbers stand here once there is art.'
          : 'Choose a plane on the Stand or in the picture. Drag it up or down to give it depth.'}
      </p>
    );
  }
  const locked = planes.filter((plane) => plane.locked);
  return (
    <section
      aria-label="Plane"
      className="grid h-[117px] shrink-0 grid-cols-[128px_1fr] gap-x-2 px-3.5 py-2.5"
    >
      <PlaneHeading planes={planes} />
      <div className="min-w-0">
        <PlaneFields planes={planes} scene={scene} />
        {locked.length > 0 ? (
          <LockedSentence locked={locked} all={planes.length} />
        ) : (
          planes.length === 1 && planes[0] && <PlaneSentence plane={planes[0]} />
        )}
      </div>
    </section>
  );
}

/** Why the numbers do nothing, and the way out. */
function LockedSentence({ locked, all }: { locked: readonly Plane[]; all: number }) {
  const session = useSession();
  const ids = locked.map((plane) => plane.id);
  return (
    <p className="narrow mt-2 flex items-center gap-2 text-[12.5px]">
      {all === 1
        ? 'Locked: it stays where it is.'
        : `${locked.length} of ${all} are locked and stay where they are.`}
      <Button
        onClick={() => {
          const { scene } = session.state;
          session.commit('unlock-planes', subjectOf(scene, ids), setPlanesLocked(scene, new Set(ids), false));
        }}
      >
        Unlock
      </Button>
    </p>
  );
}

function PlaneHeading({ planes }: { planes: readonly Plane[] }) {
  const session = useSession();
  const [only] = planes;
  if (planes.length > 1 || !only)
    return <h2 className="text-[14px] font-semibold">{planes.length} planes</h2>;
  return (
    <div className="min-w-0">
      <h2 className="truncate text-[14px] font-semibold">{only.name}</h2>
      <label className="mt-1 block text-[11px] text-ink-2">
        Mounted on{' '}
        <select
          className="rounded-[3px] border border-rule bg-raised text-[12px] text-ink"
          value={only.mount}
          onChange={(event) => {
            const mount = event.target.value === 'camera' ? 'camera' : 'stage';
            const { scene, frame } = session.state;
            session.commit('remount-plane', only.name, setPlaneMount(scene, only.id, mount, frame));
          }}
        >
          <option value="stage">stage</option>
          <option value="camera">camera</option>
        </select>
      </label>
    </div>
  );
}

function PlaneFields({ planes, scene }: { planes: readonly Plane[]; scene: Scene }) {
  const session = useSession();
  const frame = useSessionState((state) => state.frame);
  const holdPicture = usePreferences((state) => state.holdPicture);
  const ids = planes.map((plane) => plane.id);
  const subject = subjectOf(scene, ids);
  const home = scene.homeDistanceSpx;
  const [only] = planes;

  const depthField = (toDepth: (value: number) => number) => {
    const next = (value: number) => withDepth(session.state.scene, ids, toDepth(value), frame, holdPicture);
    return {
      onPreview: (value: number) => session.show(next(value)),
      onCommit: (value: number) => session.commit('set-depth', subject, next(value)),
      onCancel: () => session.show(null),
    };
  };
  const placeField = (toScene: (value: number) => Scene) => ({
    onPreview: (value: number) => session.show(toScene(value)),
    onCommit: (value: number) => session.commit('place-plane', subject, toScene(value)),
    onCancel: () => session.show(null),
  });
  const poseOf = (plane: Plane) =>
    plane.mount === 'camera' ? homePose(stageFrameOf(scene)) : cameraPoseAt(scene, frame);
  const cameraZ = only ? poseOf(only).zSpx : 0;
  const opacityNext = (value: number) => setPlanesOpacity(session.state.scene, new Set(ids), value / 100);

  return (
    <div className="grid grid-cols-[1.05fr_0.9fr_1.1fr_1.15fr_1.15fr_1fr_0.8fr_0.85fr] gap-2">
      <NumberField
        label="Depth"
        unit="px"
        signed
        value={common(planes, (p) => p.depthSpx)}
        step={10}
        min={nearestDepthSpx(scene)}
        max={1e7}
        {...depthField((v) => v)}
      />
      <NumberField
        label="Speed"
        unit="%"
        decimals={1}
        min={0.02}
        max={9900}
        value={common(planes, (p) => speedAtDepth(p.depthSpx, home) * 100)}
        context={{ hundredPercent: 100 }}
        {...depthField((v) => depthAtSpeed(Math.max(v, 0.02) / 100, home))}
      />
      <NumberField
        label="From camera"
        unit="px"
        value={common(planes, (p) => distanceSpx(poseOf(p), p.depthSpx))}
        step={10}
        {...depthField((v) => v + cameraZ)}
      />
      {planes.length > 1 &&
        (['East', 'South'] as const).map((way) => (
          <NumberField
            key={way}
            label={`${way} by`}
            unit="px"
            decimals={1}
            value={0}
            {...placeField((v) =>
              nudgePlanes(session.state.scene, new Set(ids), way === 'East' ? v : 0, way === 'South' ? v : 0),
            )}
          />
        ))}
      {only && planes.length === 1 && (
        <>
          <NumberField
            label="East"
            unit="px"
            decimals={1}
            value={only.transform.xSpx}
            {...placeField((v) => setPlaneTransform(session.state.scene, only.id, { xSpx: v }))}
          />
          <NumberField
            label="South"
            unit="px"
            decimals={1}
            value={only.transform.ySpx}
            {...placeField((v) => setPlaneTransform(session.state.scene, only.id, { ySpx: v }))}
          />
          <NumberField
            label="Size"
            unit="×"
            decimals={3}
            min={0.0001}
            max={1e5}
            step={0.01}
            value={Math.abs(only.transform.scaleX)}
            {...placeField((v) => sized(session.state.scene, only, v))}
          />
          <NumberField
            label="Turn"
            unit="°"
            decimals={2}
            step={0.5}
            min={-3600}
            max={3600}
            value={only.transform.rotationDeg}
            {...placeField((v) => setPlaneTransform(session.state.scene, only.id, { rotationDeg: v }))}
          />
        </>
      )}
      <NumberField
        label="Opacity"
        unit="%"
        min={0}
        max={100}
        value={common(planes, (p) => Math.round(p.opacity * 1000) / 10)}
        context={{ hundredPercent: 100 }}
        onPreview={(v) => session.show(opacityNext(v))}
        onCommit={(v) => session.commit('set-opacity', subject, opacityNext(v))}
        onCancel={() => session.show(null)}
      />
    </div>
  );
}

/** A new size keeps the plane's proportions and flips. */
function sized(scene: Scene, plane: Plane, size: number): Scene {
  const { scaleX, scaleY } = plane.transform;
  const ratio = size / Math.abs(scaleX);
  return setPlaneTransform(scene, plane.id, { scaleX: scaleX * ratio, scaleY: scaleY * ratio });
}
