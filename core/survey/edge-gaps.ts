import {
  cameraPoseAt,
  factsOf,
  type Plane,
  repeatsAcross,
  repeatsDown,
  type Scene,
  stageFrameOf,
  standingAt,
} from '../document/index.ts';
import { mapBox } from '../geometry/index.ts';
import { SIDES, type Side } from '../image/index.ts';
import { placePlane } from '../stage/index.ts';

/** A cut edge of the art that comes into frame. */
export interface EdgeGap {
  readonly side: Side;
  /** Deepest that the edge stands inside the frame, output px, and where. */
  readonly worstPx: number;
  readonly worstFrame: number;
  readonly firstFrame: number;
  readonly frames: number;
  /** Art px to paint on beyond that side so that it stays out of frame. */
  readonly paintArtPx: number;
}

const SMALLEST_GAP_PX = 0.5;

/** How far each side of the painted art stands inside the frame at `frame`, output px; negative is spare art. */
function edgesInsideFramePx(scene: Scene, plane: Plane, frame: number): Record<Side, number> | null {
  const { painted } = factsOf(plane.content);
  const { artToFrame } = placePlane(
    stageFrameOf(scene),
    cameraPoseAt(scene, frame),
    standingAt(scene, plane, frame),
  );
  if (!painted || !artToFrame) return null;
  const box = mapBox(artToFrame, painted);
  const { widthPx, heightPx } = scene.frame;
  return { left: box.x0, right: widthPx - box.x1, top: box.y0, bottom: heightPx - box.y1 };
}

/**
 * Every cut edge that any frame of the shot shows. Exact for planes that do not turn against the frame; measured on
 * the bounds of the painted box, so a turned plane is judged too kindly. Flipped planes swap their sides.
 */
export function edgeGaps(scene: Scene, plane: Plane): EdgeGap[] {
  const gaps = new Map<Side, EdgeGap>();
  for (let frame = 1; frame <= scene.lengthFrames; frame++) {
    const inside = edgesInsideFramePx(scene, plane, frame);
    if (!inside) continue;
    const scale = outPxPerArtPx(scene, plane, frame);
    for (const side of SIDES) {
      if (!endsAt(plane, side) || inside[side] < SMALLEST_GAP_PX) continue;
      const known = gaps.get(side);
      const worse = !known || inside[side] > known.worstPx;
      gaps.set(side, {
        side,
        worstPx: worse ? inside[side] : known.worstPx,
        worstFrame: worse ? frame : known.worstFrame,
        firstFrame: known?.firstFrame ?? frame,
        frames: (known?.frames ?? 0) + 1,
        paintArtPx: Math.max(known?.paintArtPx ?? 0, Math.ceil(inside[side] / scale)),
      });
    }
  }
  return [...gaps.values()].sort((p, q) => q.worstPx - p.worstPx);
}

function outPxPerArtPx(scene: Scene, plane: Plane, frame: number): number {
  const { artToFrame } = placePlane(
    stageFrameOf(scene),
    cameraPoseAt(scene, frame),
    standingAt(scene, plane, frame),
  );
  return artToFrame ? Math.hypot(artToFrame.a, artToFrame.b) : 1;
}

/** Whether the paint is cut off where it is seen at `side` of the frame: a plane that is tiled that way never ends. */
export function endsAt(plane: Plane, side: Side): boolean {
  const across = side === 'left' || side === 'right';
  const endless = across ? repeatsAcross(plane.repeat) : repeatsDown(plane.repeat);
  return !endless && factsOf(plane.content).cutEdges[artSide(plane, side)];
}

/** The side of the art that is seen at `side` of the frame. */
function artSide(plane: Plane, side: Side): Side {
  const { scaleX, scaleY } = plane.transform;
  if (scaleX < 0 && (side === 'left' || side === 'right')) return side === 'left' ? 'right' : 'left';
  if (scaleY < 0 && (side === 'top' || side === 'bottom')) return side === 'top' ? 'bottom' : 'top';
  return side;
}
