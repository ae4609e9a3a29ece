import type { Plane, PlaneId, Scene } from '../../scene/index.ts';
import { planeOf, planesOf } from '../../scene/records/index.ts';
import { artToCarrier } from '../../stage/index.ts';
import { carrierOf, posedPlane, restOf, slideArtPx } from '../../staging/index.ts';
import { withPlane } from './with-planes.ts';

/** How far a plane's run has slid its art by `frame`, art px. */
const slideOf = (scene: Scene, id: PlaneId, frame: number) => {
  const plane = planeOf(scene, id);
  return plane?.run
    ? slideArtPx(scene, posedPlane(plane, frame), carrierOf(scene, plane, frame), frame)
    : null;
};

/**
 * A run goes on at its own speed at whatever depth and on whatever carrier it comes to, so by `frame` it has slid the
 * art another way. A plane that runs is put back by the difference, and the picture of that frame stays. Once for an edit:
 * the difference is there after it as well.
 */
export function withSlideHeld(before: Scene, after: Scene, id: PlaneId, frame: number): Scene {
  const [was, is] = [slideOf(before, id, frame), slideOf(after, id, frame)];
  return was && is && (was.x !== is.x || was.y !== is.y)
    ? withPlane(after, id, (plane) => slid(plane, was.x - is.x, was.y - is.y, frame))
    : after;
}

/** The same for every plane: what rides on a plane that was changed runs by another way too. */
export const withSlidesHeld = (before: Scene, after: Scene, frame: number): Scene =>
  planesOf(before).reduce((next, { id }) => withSlideHeld(before, next, id, frame), after);

/** A plane moved by so many art px along its own axes, as it stands at a frame. */
function slid(plane: Plane, dx: number, dy: number, frame: number): Plane {
  const posed = posedPlane(plane, frame);
  const { transform } = posed;
  const map = artToCarrier(transform);
  const xSpx = transform.xSpx + map.a * dx + map.c * dy;
  const ySpx = transform.ySpx + map.b * dx + map.d * dy;
  return restOf({ ...posed, transform: { ...transform, xSpx, ySpx } }, frame);
}
