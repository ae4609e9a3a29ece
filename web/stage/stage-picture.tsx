import { movePlanesOnFrame } from '@keen-ridge/core/edits/planes';
import type { Point } from '@keen-ridge/core/geometry';
import type { Plane } from '@keen-ridge/core/scene';
import { useRef } from 'react';
import { subjectOf } from '../edits/depth-edits.ts';
import { useChoosing } from '../picture/choosing.tsx';
import { Picture, type PictureDrag, type PicturePoint, type PicturePress } from '../picture/picture.tsx';
import { pictureDrag } from '../picture/picture-drag.ts';
import { type ClickKeys, chooseClicked, clickKeys } from '../session/choices/selection.ts';
import type { Session } from '../session/session.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { useIsDockOpen } from '../ui/dock.tsx';
import { stageWords as say } from '../words/stage.ts';
import { Handles } from './handles.tsx';
import { PinMarks } from './pins/pin-marks.tsx';
import { graspPin, PINS_DOCK, putPin } from './pins/pinning.ts';
import { pointAt } from './pointed-spots.ts';

/** Px of the screen that a press may wander and still be a click. */
const CLICK_SLACK_PX = 4;
const STAND_IN = 'stand-in';

/** The picture through the camera, where planes are chosen, moved and shaped. */
export function StagePicture() {
  const choosing = useChoosing();
  const measuring = useSessionState((state) => state.measuring !== null);
  const pinning = useSessionState((state) => state.pinning);
  const pinsShown = useIsDockOpen(PINS_DOCK) || pinning;
  const grasp = useStagePicture(choosing, pinsShown);
  return (
    <Picture
      margin={0.11}
      label={say.pictureThroughTheCameraClick}
      cursor={measuring || pinning ? 'crosshair' : 'default'}
      grasp={grasp}
      slackPx={CLICK_SLACK_PX}
      over={(room) => (
        <>
          {!measuring && !pinning && <Handles room={room} />}
          {pinsShown && <PinMarks {...room} />}
          {choosing.draw(room)}
        </>
      )}
    />
  );
}

/** What a press takes hold of: the stand-in figure, the chosen planes, or nothing but a click that chooses. */
function useStagePicture(
  choosing: ReturnType<typeof useChoosing>,
  pinsShown: boolean,
): (press: PicturePress) => PictureDrag | null {
  const session = useSession();
  const lastClick = useRef<{ client: Point; index: number } | null>(null);
  const choose = (client: Point, under: readonly Plane[], keys: ClickKeys) => {
    const last = lastClick.current;
    const again = last && Math.hypot(client.x - last.client.x, client.y - last.client.y) <= CLICK_SLACK_PX;
    const index = under.length === 0 ? 0 : again ? (last.index + 1) % under.length : 0;
    lastClick.current = { client, index };
    const plane = under[index];
    if (plane) chooseClicked(session, plane.id, keys);
    else if (!keys.add && !keys.shift) session.select([]);
  };
  return (press) => {
    const { event, at, planesUnder } = press;
    if (session.state.measuring) {
      pointAt(session, at);
      return null;
    }
    const pin = pinsShown ? graspPin(session, press) : null;
    if (pin) return pin;
    if (session.state.pinning) {
      putPin(session, press);
      return null;
    }
    const all = planesUnder();
    if (all[0]?.id === STAND_IN) {
      const { figure } = session.state;
      return { move: (to) => moveFigure(session, to.at), drop: () => session.setFigure(figure) };
    }
    const under = all.filter(({ id }) => id !== STAND_IN);
    const keys = clickKeys(event);
    const { scene, selection, frame } = session.state;
    const click = ({ drag }: PicturePoint) => choose({ x: drag.clientX, y: drag.clientY }, under, keys);
    if (keys.add || keys.shift || !under.some(({ id }) => selection.includes(id)))
      return choosing.press(press, click);
    const ids = new Set(selection);
    return pictureDrag(session, at, {
      action: 'place-plane',
      subject: subjectOf(scene, selection),
      change: (kept, by) => movePlanesOnFrame(kept, ids, by, frame),
      click,
    });
  };
}

/** The figure is dragged by its feet along the frame as the home camera sees it. */
function moveFigure(session: Session, at: Point): void {
  const { figure, scene } = session.state;
  if (!figure) return;
  const feet = { x: at.x - scene.frame.widthPx / 2, y: at.y - scene.frame.heightPx / 2 };
  session.setFigure({ ...figure, feet });
}
