import { setChannelValue } from '@keen-ridge/core/edits/keys';
import { focusOn } from '@keen-ridge/core/edits/look';
import type { Point } from '@keen-ridge/core/geometry';
import type { Triple } from '@keen-ridge/core/paint';
import type { Plane } from '@keen-ridge/core/scene';
import { ridesOnCamera, shownValueAt } from '@keen-ridge/core/staging';
import { useEffect, useRef } from 'react';
import { toast } from 'sonner';
import type { PictureDrag, PicturePress } from '../picture/picture.tsx';
import { usePreferences } from '../session/choices/preferences.ts';
import { chooseClicked, clickKeys } from '../session/choices/selection.ts';
import type { Session } from '../session/session.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import type { DragPoint } from '../ui/pointer/drag.ts';
import { lookWords as say } from '../words/look.ts';
import { useMatching } from './matching.ts';

/** Px of the screen that a press may wander and still be a click, and within which the next one goes on to what is behind. */
const SLACK_PX = 4;

/** Iris that is seen at once, as a share of the frame's width. */
const USUAL_IRIS = 0.02;

const IRIS = { on: 'camera', name: 'iris' } as const;
/** There is one notice that the iris is shut, and it goes when the iris opens or the step is left. */
const IRIS_SHUT = 'iris-shut';

/** What a press in the picture does: it makes sharp, chooses, or picks a colour. */
export function useLookClicks() {
  const session = useSession();
  const isOpen = useSessionState(({ scene, frame }) => shownValueAt(scene, IRIS, frame) > 0);
  useEffect(() => {
    if (isOpen) toast.dismiss(IRIS_SHUT);
    return () => {
      toast.dismiss(IRIS_SHUT);
    };
  }, [isOpen]);
  const last = useRef<{ at: Point; index: number } | null>(null);
  const grasp = (press: PicturePress): PictureDrag => {
    const under = press.planesUnder();
    const { event } = press;
    // By the time of the click the event has been let go of.
    const canvas = event.currentTarget.querySelector('canvas');
    return {
      click: ({ drag }) => {
        if (pickedColour(canvas, drag)) return;
        const at = { x: drag.clientX, y: drag.clientY };
        const again =
          last.current && Math.hypot(at.x - last.current.at.x, at.y - last.current.at.y) <= SLACK_PX;
        const index = under.length === 0 ? 0 : again ? (last.current!.index + 1) % under.length : 0;
        last.current = { at, index };
        const plane = under[index];
        if (usePreferences.getState().lookClick === 'sharp') makeSharp(session, plane);
        else if (plane) chooseClicked(session, plane.id, clickKeys(event));
        else session.select([]);
      },
    };
  };
  return { grasp, slackPx: SLACK_PX };
}

/** Focuses on a plane at this frame, or says why not. */
export function makeSharp(session: Session, plane: Plane | undefined): void {
  if (!plane) {
    toast(say.nothingThereToBeSharp);
    return;
  }
  const { scene, frame } = session.state;
  if (ridesOnCamera(scene, plane)) {
    toast(say.nameRidesOnTheCamera(plane.name));
    return;
  }
  session.select([plane.id]);
  const { keying } = usePreferences.getState();
  session.commit('set-focus', plane.name, focusOn(scene, plane.id, { frame, keying }));
  const iris = shownValueAt(session.state.scene, IRIS, frame);
  if (iris > 0) return;
  toast(say.theIrisIsShut, {
    id: IRIS_SHUT,
    action: {
      label: say.openIt,
      onClick: () => {
        const { scene: now } = session.state;
        const wide = Math.round(now.frame.widthPx * USUAL_IRIS);
        const change = { frame: session.state.frame, keying: false };
        session.commit('shift-camera', 'Iris', setChannelValue(now, IRIS, wide, change));
      },
    },
  });
}

type PlaceOnScreen = Pick<DragPoint, 'clientX' | 'clientY'>;

/** Takes the colour under a press for the matching, if one is being picked. */
function pickedColour(canvas: HTMLCanvasElement | null, at: PlaceOnScreen): boolean {
  const { picking } = useMatching.getState();
  if (!picking) return false;
  const colour = canvas && colourAt(canvas, at);
  useMatching.setState({ picking: null, ...(colour ? { [picking]: colour } : {}) });
  return true;
}

/** The mean of three by three px of what the canvas shows there; null beside it. */
function colourAt(canvas: HTMLCanvasElement, { clientX, clientY }: PlaceOnScreen): Triple | null {
  const box = canvas.getBoundingClientRect();
  const x = Math.floor(((clientX - box.left) / box.width) * canvas.width);
  const y = Math.floor(((clientY - box.top) / box.height) * canvas.height);
  const copy = document.createElement('canvas');
  [copy.width, copy.height] = [3, 3];
  const context = copy.getContext('2d');
  if (!context) return null;
  context.drawImage(canvas, x - 1, y - 1, 3, 3, 0, 0, 3, 3);
  const { data } = context.getImageData(0, 0, 3, 3);
  const mean = (c: number) => {
    let sum = 0;
    for (let i = c; i < data.length; i += 4) sum += data[i]!;
    return sum / 9 / 255;
  };
  return [mean(0), mean(1), mean(2)];
}
