import { framePlanes, SIZINGS, setMove, smoothZoomPan, swapEnds } from '@keen-ridge/core/edits/camera';
import { boundsOf } from '@keen-ridge/core/edits/keys';
import { setPassing } from '@keen-ridge/core/edits/look';
import { PASSINGS, type Passing, STEPS } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { distanceToPlane, steadyPoseAt } from '@keen-ridge/core/staging';
import { toast } from 'sonner';
import { keySelection } from '../session/choices/key-selection.ts';
import { setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Button } from '../ui/button.tsx';
import { Dock } from '../ui/dock.tsx';
import { Choice } from '../ui/fields/choice.tsx';
import { NumberField } from '../ui/fields/number-field.tsx';
import { moveWords as say } from '../words/move.ts';

const SIZING_WORDS = { zoom: say.zoom, truck: say.truck } as const;
const ZOOM_WORDS = { even: say.evenGrowth, plain: say.plain } as const;
const PASSING_WORDS = { none: say.nothing, fade: say.fades, defocus: say.blurs } as const;
const PASSING_OPTIONS = ['none', ...PASSINGS] as const;

/** What the whole camera can be told: ends, framing, how it grows, and planes that it keeps or passes. */
export function CameraDock() {
  const sizing = usePreferences((state) => state.sizing);
  return (
    <Dock id="camera" label={say.camera}>
      <Choice
        label={say.sizingAFieldKeys}
        options={SIZINGS}
        words={SIZING_WORDS}
        value={sizing}
        onChange={(value) => setPreferences({ sizing: value })}
      />
      <WholeMove />
      <Growth />
      <ChosenPlane />
    </Dock>
  );
}

function WholeMove() {
  const session = useSession();
  const selection = useSessionState((state) => state.selection);
  const selectedKeys = useSessionState((state) => state.selectedKeys);
  const glide = () => {
    const { scene } = session.state;
    const [from, to] =
      selectedKeys.length > 1 ? boundsOf(keySelection(selectedKeys)) : [1, scene.lengthFrames];
    const glided = smoothZoomPan(scene, from, to);
    if (glided) session.commit('glide', `${from} – ${to}`, glided);
    else toast(say.aGlideNeedsThreeFrames);
  };
  const frame = () => {
    const { scene, frame: at } = session.state;
    const { keying, sizing } = usePreferences.getState();
    const framed = framePlanes(scene, new Set(selection), sizing, { frame: at, keying });
    if (framed) session.commit('frame-planes', planeOf(scene, selection[0]!)?.name ?? 'planes', framed);
    else toast(say.nothingOfWhatIsChosen);
  };
  return (
    <div className="mt-3 flex flex-wrap gap-1">
      <Button
        title={say.whatIsSeenFirstIs}
        onClick={() => session.commit('swap-ends', 'the camera', swapEnds(session.state.scene))}
      >
        {say.swapStartAndEnd}
      </Button>
      <Button disabled={selection.length === 0} title={say.keysTheCameraSoThat} onClick={frame}>
        {say.frameWhatIsChosen}
      </Button>
      <Button title={say.oneGlideOfPanAnd} onClick={glide}>
        {say.glide}
      </Button>
    </div>
  );
}

function Growth() {
  const session = useSession();
  const move = useSessionState((state) => state.scene.move);
  return (
    <div className="mt-3 grid gap-3 border-t border-rule-light pt-3">
      <div>
        <Choice
          label={say.zoomBetweenKeys}
          options={STEPS}
          words={ZOOM_WORDS}
          value={move.zoomSteps}
          onChange={(zoomSteps) =>
            session.commit('set-steps', 'the zoom', setMove(session.state.scene, { zoomSteps }))
          }
        />
      </div>
      <div>
        <Choice
          label={say.truckBetweenKeys}
          options={STEPS}
          words={ZOOM_WORDS}
          value={move.truckSteps}
          onChange={(truckSteps) =>
            session.commit('set-steps', 'the truck', setMove(session.state.scene, { truckSteps }))
          }
        />
      </div>
    </div>
  );
}

/** What the camera does about one plane: keeps its size, or what it does when it is passed. */
function ChosenPlane() {
  const session = useSession();
  const scene = useSessionState((state) => state.scene);
  const selection = useSessionState((state) => state.selection);
  const { keepSize } = scene.move;
  const kept = keepSize && planeOf(scene, keepSize.plane);
  const [id] = selection;
  const plane = id && selection.length === 1 ? planeOf(scene, id) : undefined;
  const keep = (how: 'same' | 'no-smaller') => {
    if (!plane) return;
    const { frame } = session.state;
    const distanceSpx = distanceToPlane(scene, plane.id, steadyPoseAt(scene, frame), frame);
    if (distanceSpx === null) {
      toast(say.nameIsNotOnThe(plane.name));
      return;
    }
    const next =
      how === 'same' ? ({ how, plane: plane.id, distanceSpx } as const) : ({ how, plane: plane.id } as const);
    session.commit('keep-size', plane.name, setMove(scene, { keepSize: next }));
  };
  return (
    <div className="mt-3 border-t border-rule-light pt-3">
      {keepSize && (
        <p className="mb-2 flex items-center gap-2">
          <span>
            {keepSize.how === 'same' ? say.theZoomHoldsTheSize : say.theZoomKeepsFromIts}
            <b>{kept?.name ?? say.aPlaneThatIsGone}</b>
          </span>
          <Button
            onClick={() =>
              session.commit('keep-size', kept?.name ?? 'a plane', setMove(scene, { keepSize: null }))
            }
          >
            {say.letGo}
          </Button>
        </p>
      )}
      {plane ? (
        <>
          <p className="mb-1.5 font-semibold">{plane.name}</p>
          <div className="flex flex-wrap gap-1">
            <Button title={say.whileTheCameraTrucksThe} onClick={() => keep('same')}>
              {say.keepItsSize}
            </Button>
            <Button title={say.theZoomStepsInOnly} onClick={() => keep('no-smaller')}>
              {say.neverBelowItsOpeningSize}
            </Button>
          </div>
          <PassingControls planeId={plane.id} passing={plane.passing} />
        </>
      ) : (
        <p className="text-ink-2">{say.chooseAPlaneToHold}</p>
      )}
    </div>
  );
}

function PassingControls({
  planeId,
  passing,
}: {
  planeId: NonNullable<ReturnType<typeof planeOf>>['id'];
  passing: Passing | null;
}) {
  const session = useSession();
  const home = useSessionState((state) => state.scene.homeDistanceSpx);
  const overSpx = passing?.overSpx ?? Math.round(home / 4);
  const set = (next: Passing | null) => {
    const { scene } = session.state;
    session.commit(
      'set-passing',
      planeOf(scene, planeId)?.name ?? 'a plane',
      setPassing(scene, new Set([planeId]), next),
    );
  };
  return (
    <div className="mt-2 flex items-end gap-2">
      <div className="flex-1">
        <Choice
          label={say.whenTheCameraPassesIt}
          options={PASSING_OPTIONS}
          words={PASSING_WORDS}
          value={passing?.way ?? 'none'}
          onChange={(way) => set(way === 'none' ? null : { way, overSpx })}
        />
      </div>
      <NumberField
        className="w-24"
        label={say.overTheLast}
        unit="px"
        min={1}
        max={1e6}
        disabled={!passing}
        value={overSpx}
        onCommit={(value) => passing && set({ ...passing, overSpx: value })}
      />
    </div>
  );
}
