import { movePlanesOnFrame } from '@keen-ridge/core/edits/planes';
import type { Point } from '@keen-ridge/core/geometry';
import type { Plane, Scene } from '@keen-ridge/core/scene';
import { useRef } from 'react';
import { subjectOf } from '../edits/depth-edits.ts';
import { Picture, type PicturePointer } from '../picture/picture.tsx';
import type { Session } from '../session/session.ts';
import { useSession, useSessionState } from '../session/use-session.ts';
import { Handles } from './handles.tsx';
import { pointAt } from './pointed-spots.ts';

/** Px of the screen that a press may wander and still be a click. */
const CLICK_SLACK_PX = 4;
const STAND_IN = 'stand-in';

interface Press {
  readonly at: Point;
  readonly client: Point;
  readonly under: readonly Plane[];
  readonly drags: 'planes' | 'figure' | null;
  readonly add: boolean;
  moved: boolean;
}

/** The picture through the camera, where planes are chosen, moved and shaped. */
export function StagePicture() {
  const handlers = useStagePicture();
  const measuring = useSessionState((state) => state.measuring !== null);
  return (
    <Picture
      margin={0.11}
      label="Picture through the camera. Click a plane to choose it, again to go through to the one behind."
      cursor={measuring ? 'crosshair' : 'default'}
      {...handlers}
      over={(room) => (measuring ? null : <Handles room={room} />)}
    />
  );
}

function useStagePicture() {
  const session = useSession();
  const press = useRef<Press | null>(null);
  const lastClick = useRef<{ client: Point; index: number } | null>(null);

  const moved = ({ at, event }: PicturePointer): Scene | null => {
    const under = press.current;
    if (!under?.drags) return null;
    const far = Math.hypot(event.clientX - under.client.x, event.clientY - under.client.y) > CLICK_SLACK_PX;
    if (!under.moved && !far) return null;
    under.moved = true;
    const by = { x: at.x - under.at.x, y: at.y - under.at.y };
    const { scene, selection, frame } = session.state;
    if (under.drags === 'planes') return movePlanesOnFrame(scene, new Set(selection), by, frame);
    moveFigure(session, at);
    return null;
  };
  const click = ({ event }: PicturePointer, { under, add }: Press) => {
    const client = { x: event.clientX, y: event.clientY };
    const last = lastClick.current;
    const again = last && Math.hypot(client.x - last.client.x, client.y - last.client.y) <= CLICK_SLACK_PX;
    const index = under.length === 0 ? 0 : again ? (last.index + 1) % under.length : 0;
    lastClick.current = { client, index };
    const plane = under[index];
    if (!plane) return session.select([]);
    const others = session.state.selection.filter((id) => id !== plane.id);
    session.select(add ? [...others, plane.id] : [plane.id]);
  };
  return {
    onDown: (pointer: PicturePointer) => {
      const { event, at } = pointer;
      if (session.state.measuring) return pointAt(session, at);
      const all = pointer.planesUnder();
      const under = all.filter(({ id }) => id !== STAND_IN);
      const chosen = under.some(({ id }) => session.state.selection.includes(id));
      press.current = {
        at,
        client: { x: event.clientX, y: event.clientY },
        under,
        drags: all[0]?.id === STAND_IN ? 'figure' : chosen ? 'planes' : null,
        add: event.shiftKey || event.ctrlKey || event.metaKey,
        moved: false,
      };
    },
    onMove: (pointer: PicturePointer) => {
      const scene = moved(pointer);
      if (scene) session.show(scene);
    },
    onUp: (pointer: PicturePointer) => {
      const ended = press.current;
      if (!ended) return;
      const scene = moved(pointer);
      press.current = null;
      if (scene) session.commit('place-plane', subjectOf(scene, session.state.selection), scene);
      else if (!ended.moved && ended.drags !== 'figure') click(pointer, ended);
    },
  };
}

/** The figure is dragged by its feet along the frame as the home camera sees it. */
function moveFigure(session: Session, at: Point): void {
  const { figure, scene } = session.state;
  if (!figure) return;
  const feet = { x: at.x - scene.frame.widthPx / 2, y: at.y - scene.frame.heightPx / 2 };
  session.setFigure({ ...figure, feet });
}
