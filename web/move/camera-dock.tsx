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

const SIZING_WORDS = { zoom: 'Zoom', truck: 'Truck' } as const;
const ZOOM_WORDS = { even: 'Even growth', plain: 'Plain' } as const;
const PASSING_WORDS = { none: 'Nothing', fade: 'Fades', defocus: 'Blurs' } as const;
const PASSING_OPTIONS = ['none', ...PASSINGS] as const;

/** What the whole camera can be told: ends, framing, how it grows, and planes that it keeps or passes. */
export function CameraDock() {
  const sizing = usePreferences((state) => state.sizing);
  return (
    <Dock id="camera" label="Camera …">
      <Choice
        label="Sizing a field keys"
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
    else toast('A glide needs three frames at least, and a camera in front of the datum at both ends.');
  };
  const frame = () => {
    const { scene, frame: at } = session.state;
    const { keying, sizing } = usePreferences.getState();
    const framed = framePlanes(scene, new Set(selection), sizing, { frame: at, keying });
    if (framed) session.commit('frame-planes', planeOf(scene, selection[0]!)?.name ?? 'planes', framed);
    else toast('Nothing of what is chosen is painted in front of the camera at this frame.');
  };
  return (
    <div className="mt-3 flex flex-wrap gap-1">
      <Button
        title="What is seen first is seen last, and the other way round"
        onClick={() => session.commit('swap-ends', 'the camera', swapEnds(session.state.scene))}
      >
        Swap start and end
      </Button>
      <Button
        disabled={selection.length === 0}
        title="Keys the camera so that the chosen planes just fit the frame here"
        onClick={frame}
      >
        Frame what is chosen
      </Button>
      <Button title="One glide of pan and zoom together, between the chosen keys or the ends" onClick={glide}>
        Glide
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
          label="Zoom between keys"
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
          label="Truck between keys"
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
      toast(`${plane.name} is not on the stage in front of the camera here: its size cannot be kept.`);
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
            {keepSize.how === 'same'
              ? 'The zoom holds the size of '
              : 'The zoom keeps from its opening size or larger: '}
            <b>{kept?.name ?? 'a plane that is gone'}</b>
          </span>
          <Button
            onClick={() =>
              session.commit('keep-size', kept?.name ?? 'a plane', setMove(scene, { keepSize: null }))
            }
          >
            Let go
          </Button>
        </p>
      )}
      {plane ? (
        <>
          <p className="mb-1.5 font-semibold">{plane.name}</p>
          <div className="flex flex-wrap gap-1">
            <Button title="While the camera trucks the zoom makes up for it" onClick={() => keep('same')}>
              Keep its size
            </Button>
            <Button
              title="The zoom steps in only where it would get smaller than in the first frame"
              onClick={() => keep('no-smaller')}
            >
              Never below its opening size
            </Button>
          </div>
          <PassingControls planeId={plane.id} passing={plane.passing} />
        </>
      ) : (
        <p className="text-ink-2">
          Choose a plane to hold its size, or to say what it does when it is passed.
        </p>
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
          label="When the camera passes it"
          options={PASSING_OPTIONS}
          words={PASSING_WORDS}
          value={passing?.way ?? 'none'}
          onChange={(way) => set(way === 'none' ? null : { way, overSpx })}
        />
      </div>
      <NumberField
        className="w-24"
        label="Over the last"
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
