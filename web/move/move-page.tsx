import { keyPlanesOnFrame } from '@keen-ridge/core/edits/keys';
import type { Point } from '@keen-ridge/core/geometry';
import type { Scene } from '@keen-ridge/core/scene';
import { planeOf } from '@keen-ridge/core/scene/records';
import { type CameraPose, cameraAfterDrag } from '@keen-ridge/core/stage';
import { stageFrameOf, steadyPoseAt } from '@keen-ridge/core/staging';
import { lazy, Suspense } from 'react';
import { cameraAction, cameraWords, withCamera } from '../edits/camera-edits.ts';
import { subjectOf } from '../edits/depth-edits.ts';
import { HistoryDock } from '../edits/history-dock.tsx';
import { usePlaneCommands } from '../edits/plane-commands.ts';
import { Picture, type PictureDrag, type PicturePress } from '../picture/picture.tsx';
import { pictureDrag } from '../picture/picture-drag.ts';
import { useStepDocks } from '../picture/use-step-docks.ts';
import { ViewDock } from '../picture/view-dock.tsx';
import { MOVE_VIEWS, type MoveView, setPreferences, usePreferences } from '../session/choices/preferences.ts';
import { chooseClicked, clickKeys } from '../session/choices/selection.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { TimingStrip } from '../timeline/strip/timing-strip.tsx';
import { DockArea, DockProvider } from '../ui/dock.tsx';
import { SideBySide } from '../ui/side-by-side.tsx';
import { ViewSwitch } from '../ui/view-switch.tsx';
import { FieldingView } from '../views/fielding-view.tsx';
import { moveWords as say } from '../words/move.ts';
import { CameraDock } from './camera-dock.tsx';
import { GhostsDock } from './ghosts-dock.tsx';
import { AboveView } from './path/above-view.tsx';
import { PathLayer } from './path/path-layer.tsx';
import { TrackDock } from './path/track-dock.tsx';
import { RideDock } from './ride/ride-dock.tsx';
import { useRide, useRideState } from './ride/use-ride.ts';
import { SwayDock } from './sway-dock.tsx';
import { TakesDock } from './takes/takes-dock.tsx';
import { useMoveCommands } from './use-move-commands.ts';

const CurvesView = lazy(async () => ({ default: (await import('./curves/curves-view.tsx')).CurvesView }));

const VIEW_WORDS: Readonly<Record<MoveView, string>> = {
  camera: say.camera2,
  fielding: say.fielding,
  above: say.fromAbove,
  curves: say.curves,
};

/** Where the move is keyed and shaped: one or two views of it over the timing strip. */
export function MovePage() {
  usePlaneCommands();
  useMoveCommands();
  const docks = useStepDocks('move');
  const views = usePreferences((state) => state.moveViews);
  return (
    <DockProvider {...docks}>
      <main className="flex min-h-0 flex-1 flex-col">
        <section aria-label={say.picture} className="flex min-h-0 flex-1 flex-col">
          <div className="flex h-[38px] shrink-0 items-center gap-1.5 border-b border-rule bg-bar px-3">
            <ViewSwitch
              options={MOVE_VIEWS}
              words={VIEW_WORDS}
              views={views}
              onChange={(moveViews) => setPreferences({ moveViews })}
            />
            <Hint />
            <CameraDock />
            <TrackDock />
            <SwayDock />
            <RideDock />
            <GhostsDock />
            <TakesDock />
            <HistoryDock />
            <ViewDock />
          </div>
          <DockArea>
            <SideBySide views={views} show={(view) => <View name={view} />} />
          </DockArea>
        </section>
        <TimingStrip />
      </main>
    </DockProvider>
  );
}

/** What a drag does here, in a few words. */
function Hint() {
  const keying = usePreferences((state) => state.keying);
  const armed = useRideState((state) => state.armed);
  const chosen = useSessionState((state) =>
    state.selection.length === 1 ? planeOf(state.scene, state.selection[0]!)?.name : undefined,
  );
  const what = chosen ? say.dragPlaneOrCamera(chosen) : say.dragPansShiftTrucks;
  return (
    <span className="narrow min-w-0 flex-1 truncate px-1 text-ink-2">
      {armed ? say.rideDragNowTheShot : keying ? what : say.whileKeyingIsOff(what)}
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
        <Suspense fallback={<p className="p-4 text-ink-2">{say.openingTheCurves}</p>}>
          <CurvesView />
        </Suspense>
      );
  }
}

function CameraView() {
  const ride = useRide();
  const drag = useMoveDrag();
  return (
    <Picture
      margin={0.07}
      label={say.pictureThroughTheCameraDrag}
      cursor={ride.armed ? 'crosshair' : 'grab'}
      grasp={ride.armed ? ride.grasp : drag}
      slackPx={ride.armed ? 0 : CLICK_SLACK_PX}
      over={(room) => <PathLayer room={room} />}
    />
  );
}

/** Px of the screen that a press may wander and still be a click. */
const CLICK_SLACK_PX = 3;

/** A drag moves the camera (the datum follows the pointer; with Shift it trucks) or the chosen plane; a click chooses. */
function useMoveDrag(): (press: PicturePress) => PictureDrag {
  const session = useSession();
  return ({ at, event, planesUnder }) => {
    session.setPlaying(false);
    const { scene, frame, selection } = session.state;
    const { keying } = usePreferences.getState();
    const under = planesUnder();
    const keys = clickKeys(event);
    const click = () => {
      const [plane] = under;
      if (plane) chooseClicked(session, plane.id, keys);
      else if (!keys.add && !keys.shift) session.select([]);
    };
    const onChosen = !event.shiftKey && under.some(({ id, locked }) => selection.includes(id) && !locked);
    if (onChosen) {
      return pictureDrag(session, at, {
        action: keying ? 'key-plane' : 'shift-plane',
        subject: subjectOf(scene, selection),
        change: (kept, by) => keyPlanesOnFrame(kept, new Set(selection), by, { frame, keying }),
        click,
      });
    }
    const pose = steadyPoseAt(scene, frame);
    return pictureDrag(session, at, {
      action: cameraAction(),
      subject: event.shiftKey ? cameraWords({ truck: 0 }) : cameraWords({ panX: 0, panY: 0 }),
      change: (kept, by, { drag }) =>
        withCamera(kept, frame, draggedCamera(kept, pose, by, drag.shiftKey) ?? {}),
      click,
    });
  };
}

/** Camera values of a drag from where the camera stood: panned with the datum under the pointer, or trucked. */
function draggedCamera(scene: Scene, pose: CameraPose, by: Point, trucks: boolean) {
  // One stage px of truck for each output px.
  if (trucks) return { truck: pose.zSpx + scene.homeDistanceSpx - by.y };
  const to = cameraAfterDrag(stageFrameOf(scene), pose, by);
  if (!to) return null;
  // A drag straight along one axis must not key the other.
  return { ...(Math.abs(by.x) >= 1 ? { panX: to.x } : {}), ...(Math.abs(by.y) >= 1 ? { panY: to.y } : {}) };
}
