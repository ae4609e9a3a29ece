import { type Affine, compose, invertAffine } from '../geometry/index.ts';
import { type CameraPose, distanceSpx, nearLimitSpx, type StageFrame, stageToFrame } from './camera.ts';
import { poseFor } from './placement.ts';
import {
  artToCarrier,
  type CarriedPlane,
  type Carrier,
  depthOnCarrier,
  type PlaneTransform,
} from './standing.ts';

/**
 * The plane on another carrier, at the same depth from the datum, placed so that the picture through `pose` does not
 * change. Null when the plane is not in front of the camera or a carrier is squashed to nothing.
 */
export function remount<P extends CarriedPlane>(
  frame: StageFrame,
  pose: CameraPose,
  plane: P,
  from: Carrier,
  to: Carrier,
): P | null {
  const depthSpx = from.depthSpx + from.depthScale * plane.depthSpx;
  const landing = (carrier: Carrier): Affine | null => {
    const seenFrom = poseFor(frame, pose, carrier.root);
    const distance = distanceSpx(seenFrom, depthSpx);
    return distance <= nearLimitSpx(frame)
      ? null
      : compose(stageToFrame(frame, seenFrom, distance), carrier.toStage);
  };
  // Between two carriers on the same root the camera does not matter, so it may even have passed the plane.
  const [before, after] = from.root === to.root ? [from.toStage, to.toStage] : [landing(from), landing(to)];
  const back = after && invertAffine(after);
  if (!before || !back) return null;
  const map = compose(compose(back, before), artToCarrier(plane.transform));
  return {
    ...plane,
    depthSpx: depthOnCarrier(to, depthSpx),
    transform: transformOf(map, plane.transform),
  };
}

/** Skews smaller than this are the rounding of a turn. */
const NO_SKEW = 1e-12;

/**
 * The transform that maps art px as `map` does. Anchor and flips are those of `like`; any map that is not squashed to
 * a line has one: R·[1 k; 0 1]·diag(sx, sy) is its QR decomposition.
 */
export function transformOf(map: Affine, like: PlaneTransform): PlaneTransform {
  const sign = like.scaleX < 0 ? -1 : 1;
  const scaleX = sign * Math.hypot(map.a, map.b);
  const [cos, sin] = [map.a / scaleX, map.b / scaleX];
  const scaleY = -sin * map.c + cos * map.d;
  const skew = (cos * map.c + sin * map.d) / scaleY;
  const { anchorXArtPx: x, anchorYArtPx: y } = like;
  return {
    xSpx: map.a * x + map.c * y + map.e,
    ySpx: map.b * x + map.d * y + map.f,
    scaleX,
    scaleY,
    rotationDeg: nearestTurn((Math.atan2(sin, cos) * 180) / Math.PI, like.rotationDeg),
    skew: Math.abs(skew) < NO_SKEW ? 0 : skew,
    anchorXArtPx: x,
    anchorYArtPx: y,
  };
}

/** The same angle, in the turn that is nearest to `near`. */
const nearestTurn = (deg: number, near: number): number => deg + 360 * Math.round((near - deg) / 360);
