import { addPin, movePin } from '@keen-ridge/core/edits/planes';
import { applyAffine, invertAffine, type Point } from '@keen-ridge/core/geometry';
import { type Plane, pinIdSchema, type Scene } from '@keen-ridge/core/scene';
import { framePlan, type PinOnFrame, pinsOnFrame } from '@keen-ridge/core/staging/frame';
import { toast } from 'sonner';
import type { PictureDrag, PicturePress } from '../../picture/picture.tsx';
import { pictureDrag } from '../../picture/picture-drag.ts';
import type { Session } from '../../session/session.ts';
import { stageWords as say } from '../../words/stage.ts';

export const PINS_DOCK = 'pins';

/** The art px of a plane at a place of the frame; null where the camera has passed it. */
function artAt(scene: Scene, frame: number, plane: Plane, at: Point): Point | null {
  const planned = framePlan(scene, frame).planes.find(({ planeId }) => planeId === plane.id);
  const back = planned?.artToFrame ? invertAffine(planned.artToFrame) : null;
  return back && applyAffine(back, at);
}

/** Puts a pin on the nearest paint under a press, or says why not. */
export function putPin(session: Session, { at, planesUnder }: PicturePress): void {
  const { scene, frame } = session.state;
  const [plane] = planesUnder();
  const art = plane && artAt(scene, frame, plane, at);
  if (!plane || !art) {
    toast(say.nothingPaintedThere);
    return;
  }
  const next = addPin(scene, plane.id, pinIdSchema.parse(crypto.randomUUID()), say.pin, art);
  if (next === scene) {
    toast(say.nameHasAllItsPins(plane.name));
    return;
  }
  session.select([plane.id]);
  session.commit('set-pin', plane.name, next);
}

/** Px of the screen round a pin within which a press takes hold of it. */
const REACH_PX = 12;

/** The drag of the pin under a press, if one is there. */
export function graspPin(session: Session, { at, event }: PicturePress): PictureDrag | null {
  const { scene, frame } = session.state;
  // The picture tells its size: px of the screen per output px.
  const scale = Number(event.currentTarget.dataset.scale ?? 1);
  const pins = pinsOnFrame(scene, framePlan(scene, frame));
  const apart = (pin: PinOnFrame) => Math.hypot(pin.at.x - at.x, pin.at.y - at.y) * scale;
  const found = pins.filter((pin) => apart(pin) <= REACH_PX).sort((p, q) => apart(p) - apart(q))[0];
  if (!found) return null;
  const { plane, pin } = found;
  return pictureDrag(session, at, {
    action: 'set-pin',
    subject: pin.name,
    change: (kept, by) => {
      const art = artAt(kept, frame, plane, { x: found.at.x + by.x, y: found.at.y + by.y });
      return art ? movePin(kept, plane.id, pin.id, art) : kept;
    },
    click: () => session.select([plane.id]),
  });
}
