import { cameraPoseAt, stageFrameOf } from '@keen-ridge/core/document';
import type { Point } from '@keen-ridge/core/geometry';
import { type CameraPose, cameraAfterDrag } from '@keen-ridge/core/stage';
import { useRef } from 'react';
import { Picture, type PicturePointer } from '../picture/picture.tsx';
import { PictureSettings } from '../picture/picture-settings.tsx';
import { usePreferences } from '../state/preferences.ts';
import { useSession, useSessionState } from '../state/use-session.ts';
import { commitCamera, withCamera } from './camera-edits.ts';
import { TimingStrip } from './timing-strip.tsx';

/** Where the camera's move is keyed: drag the camera in the picture, shape its timing in the strip. */
export function MovePage() {
  const keying = usePreferences((state) => state.keying);
  const drag = useCameraDrag();
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <section aria-label="Picture" className="flex min-h-0 flex-1 flex-col">
        <div className="flex h-[38px] shrink-0 items-center gap-3 border-b border-rule bg-bar px-3">
          <h1 className="font-semibold">Through the camera</h1>
          <span className="narrow truncate text-ink-2">
            Drag the picture to pan, with Shift up and down to truck.
            {keying ? '' : ' Keying is off: this shifts the whole move.'}
          </span>
          <span className="flex-1" />
          <DroppedFrames />
          <PictureSettings />
        </div>
        <Picture
          margin={0.07}
          label="Picture through the camera. Drag to move the camera."
          cursor="grab"
          {...drag}
        />
      </section>
      <TimingStrip />
    </main>
  );
}

function DroppedFrames() {
  const dropped = useSessionState((state) => state.dropped);
  const playing = useSessionState((state) => state.playing);
  if (playing || dropped === 0) return null;
  return <span className="num text-ink-2">last play dropped {dropped} f</span>;
}

/** Stage px of truck for one output px of a Shift-drag. */
const TRUCK_PER_PX = 1;

/** The datum follows the pointer; with Shift, up trucks in and down trucks out. */
function useCameraDrag() {
  const session = useSession();
  const drag = useRef<{ from: Point; pose: CameraPose; moved: boolean } | null>(null);
  const valuesAt = ({ at, event }: PicturePointer) => {
    const under = drag.current;
    if (!under) return null;
    const by = { x: at.x - under.from.x, y: at.y - under.from.y };
    if (!under.moved && Math.hypot(by.x, by.y) < 3) return null;
    under.moved = true;
    const { scene } = session.state;
    if (event.shiftKey) return { truck: under.pose.zSpx + scene.homeDistanceSpx - by.y * TRUCK_PER_PX };
    const to = cameraAfterDrag(stageFrameOf(scene), under.pose, by);
    if (!to) return null;
    // A drag straight along one axis must not key the other.
    return { ...(Math.abs(by.x) >= 1 ? { panX: to.x } : {}), ...(Math.abs(by.y) >= 1 ? { panY: to.y } : {}) };
  };
  return {
    onDown: ({ at }: PicturePointer) => {
      session.setPlaying(false);
      const { scene, frame } = session.state;
      drag.current = { from: at, pose: cameraPoseAt(scene, frame), moved: false };
    },
    onMove: (pointer: PicturePointer) => {
      const values = valuesAt(pointer);
      if (values) session.show(withCamera(session, values));
    },
    onUp: (pointer: PicturePointer) => {
      const values = valuesAt(pointer);
      drag.current = null;
      if (values) commitCamera(session, values);
      else session.show(null);
    },
  };
}
