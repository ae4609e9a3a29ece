import { keyPlanesOnFrame } from '@keen-ridge/core/edits/keys';
import type { Point } from '@keen-ridge/core/geometry';
import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { type CameraPose, cameraAfterDrag } from '@keen-ridge/core/stage';
import { stageFrameOf, steadyPoseAt } from '@keen-ridge/core/staging';
import { lazy, Suspense, useRef } from 'react';
import { commitCamera, withCamera } from '../edits/camera-edits.ts';
import { Picture, type PicturePointer } from '../picture/picture.tsx';
import { PictureSettings } from '../picture/picture-settings.tsx';
import { MOVE_VIEWS, type MoveView, setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { TimingStrip } from '../timeline/timing-strip.tsx';
import { SideBySide } from '../ui/side-by-side.tsx';
import { ViewSwitch } from '../ui/view-switch.tsx';
import { FieldingView } from '../views/fielding-view.tsx';
import { CameraPopover } from './camera-popover.tsx';
import { GhostsPopover } from './ghosts-popover.tsx';
import { AboveView } from './path/above-view.tsx';
import { PathLayer } from './path/path-layer.tsx';
import { TrackPopover } from './path/track-popover.tsx';
import { RidePopover } from './ride/ride-popover.tsx';
import { useRide, useRideState } from './ride/use-ride.ts';
import { SwayPopover } from './sway-popover.tsx';
import { TakesPopover } from './takes/takes-popover.tsx';
import { useMoveKeys } from './use-move-keys.ts';

const CurvesView = lazy(async () => ({ default: (await import('./curves/curves-view.tsx')).CurvesView }));

const VIEW_WORDS: Readonly<Record<MoveView, string>> = {
  camera: 'Camera',
  fielding: 'Fielding',
  above: 'From above',
  curves: 'Curves',
};

/** Where the move is keyed and shaped: one or two views of it over the timing strip. */
export function MovePage() {
  useMoveKeys();
  const views = usePreferences((state) => state.moveViews);
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <section aria-label="Picture" className="flex min-h-0 flex-1 flex-col">
        <div className="flex h-[38px] shrink-0 items-center gap-1.5 border-b border-rule bg-bar px-3">
          <ViewSwitch
            options={MOVE_VIEWS}
            words={VIEW_WORDS}
            views={views}
            onChange={(moveViews) => setPreferences({ moveViews })}
          />
          <Hint />
          <CameraPopover />
          <TrackPopover />
          <SwayPopover />
          <RidePopover />
          <GhostsPopover />
          <TakesPopover />
          <PictureSettings />
        </div>
        <SideBySide views={views} show={(view) => <View name={view} />} />
      </section>
      <TimingStrip />
    </main>
  );
}

/** What a drag does here, in a few words. */
function Hint() {
  const keying = usePreferences((state) => state.keying);
  const armed = useRideState((state) => state.armed);
  const chosen = useSessionState((state) =>
    state.selection.length === 1 ? planeOf(state.scene, state.selection[0]!)?.name : undefined,
  );
  const what = chosen
    ? `Drag ${chosen}, or beside it the camera`
    : 'Drag pans, with Shift trucks; a click chooses a plane';
  return (
    <span className="narrow min-w-0 flex-1 truncate px-1 text-ink-2">
      {armed
        ? 'Ride: drag now, the shot plays.'
        : `${what}.${keying ? '' : ' Keying is off: it shifts the whole move.'}`}
    </span>
  );
}

function View({ name }: { name: MoveView }) {
  switch (name) {
    case 'camera':
      return <CameraView />;
    case 'fielding':
      return <FieldingView over={(room) => <PathLayer room={room} />} />;
    case 'above':
      return <AboveView />;
    case 'curves':
      return (
        <Suspense fallback={<p className="p-4 text-ink-2">Opening the curves …</p>}>
          <CurvesView />
        </Suspense>
      );
  }
}

function CameraView() {
  const drag = useMoveDrag();
  const { armed, ...ride } = useRide();
  return (
    <Picture
      margin={0.07}
      label="Picture through the camera. Drag to move the camera, or the chosen plane."
      cursor={armed ? 'crosshair' : 'grab'}
      {...(armed ? ride : drag)}
      over={(room) => <PathLayer room={room} />}
    />
  );
}

/** Stage px of truck for one output px of a Shift-drag. */
const TRUCK_PER_PX = 1;
/** Px of the screen that a press may wander and still be a click. */
const CLICK_SLACK_PX = 3;

interface MoveDrag {
  readonly from: Point;
  readonly client: Point;
  readonly pose: CameraPose;
  /** The press was on the plane that is chosen: it is what moves. */
  readonly onChosen: boolean;
  readonly under: ReturnType<PicturePointer['planesUnder']>;
  moved: boolean;
}

/** A drag moves the camera (the datum follows the pointer; with Shift it trucks) or the chosen plane; a click chooses. */
function useMoveDrag() {
  const session = useSession();
  const drag = useRef<MoveDrag | null>(null);
  const cameraValues = (under: MoveDrag, { at, event }: PicturePointer) => {
    const by = { x: at.x - under.from.x, y: at.y - under.from.y };
    const { scene } = session.state;
    if (event.shiftKey) return { truck: under.pose.zSpx + scene.homeDistanceSpx - by.y * TRUCK_PER_PX };
    const to = cameraAfterDrag(stageFrameOf(scene), under.pose, by);
    if (!to) return null;
    // A drag straight along one axis must not key the other.
    return { ...(Math.abs(by.x) >= 1 ? { panX: to.x } : {}), ...(Math.abs(by.y) >= 1 ? { panY: to.y } : {}) };
  };
  const planes = (under: MoveDrag, { at }: PicturePointer): Scene => {
    const { scene, selection, frame } = session.state;
    const { keying } = usePreferences.getState();
    const by = { x: at.x - under.from.x, y: at.y - under.from.y };
    return keyPlanesOnFrame(scene, new Set(selection), by, { frame, keying });
  };
  const isMoved = (under: MoveDrag, { event }: PicturePointer): boolean => {
    const far = Math.hypot(event.clientX - under.client.x, event.clientY - under.client.y) > CLICK_SLACK_PX;
    if (far) under.moved = true;
    return under.moved;
  };
  const choose = (under: MoveDrag, { event }: PicturePointer) => {
    const [plane] = under.under;
    const add = event.shiftKey || event.ctrlKey || event.metaKey;
    const others = add ? session.state.selection : [];
    session.select(plane ? [...others.filter((id) => id !== plane.id), plane.id] : others);
  };
  return {
    onDown: (pointer: PicturePointer) => {
      session.setPlaying(false);
      const { scene, frame, selection } = session.state;
      const under = pointer.planesUnder();
      drag.current = {
        from: pointer.at,
        client: { x: pointer.event.clientX, y: pointer.event.clientY },
        pose: steadyPoseAt(scene, frame),
        onChosen:
          !pointer.event.shiftKey && under.some(({ id, locked }) => selection.includes(id) && !locked),
        under,
        moved: false,
      };
    },
    onMove: (pointer: PicturePointer) => {
      const under = drag.current;
      if (!under || !isMoved(under, pointer)) return;
      if (under.onChosen) {
        session.show(planes(under, pointer));
        return;
      }
      const values = cameraValues(under, pointer);
      if (values) session.show(withCamera(session, values));
    },
    onUp: (pointer: PicturePointer) => {
      const under = drag.current;
      drag.current = null;
      if (!under) return;
      if (!isMoved(under, pointer)) {
        session.show(null);
        choose(under, pointer);
        return;
      }
      if (under.onChosen) {
        const { keying } = usePreferences.getState();
        const { scene, selection } = session.state;
        const name =
          selection.length === 1 ? (planeOf(scene, selection[0]!)?.name ?? '') : `${selection.length} planes`;
        session.commit(keying ? 'key-plane' : 'shift-plane', name, planes(under, pointer));
        return;
      }
      const values = cameraValues(under, pointer);
      if (values) commitCamera(session, values);
      else session.show(null);
    },
  };
}
