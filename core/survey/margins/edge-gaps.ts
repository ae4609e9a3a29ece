import { type Affine, invertAffine } from '../../geometry/index.ts';
import { SIDES, type Side } from '../../image/index.ts';
import type { Plane, Repeat, Scene } from '../../scene/index.ts';
import { placePlane } from '../../stage/index.ts';
import { type ArtFacts, factsAt } from '../../staging/content/index.ts';
import { cameraPoseAt, repeatsAcross, repeatsDown, stageFrameOf, standingAt } from '../../staging/index.ts';
import { acrossPx, beyond, frameOnArt, isAcross, sideSeen } from './margins.ts';

/** A cut edge of the art that comes into frame. */
export interface EdgeGap {
  /** Where it is seen, at its worst, and which side of the art that is: turned and flipped planes show others. */
  readonly side: Side;
  readonly artSide: Side;
  /** Deepest that the edge stands inside the frame, output px straight across it, and where. */
  readonly worstPx: number;
  readonly worstFrame: number;
  readonly firstFrame: number;
  readonly frames: number;
  /** Art px to paint on beyond that side so that it stays out of frame. */
  readonly paintArtPx: number;
}

const SMALLEST_GAP_PX = 0.5;

/**
 * Every cut edge that any frame of the shot shows, of whichever drawing stands there then. Exact for planes of any
 * turn, flip, squash and skew: the frame is laid over the art, and what lies beyond the edge along its own length is
 * measured.
 */
export function edgeGaps(scene: Scene, plane: Plane): EdgeGap[] {
  const gaps = new Map<Side, EdgeGap>();
  for (const { frame, artSide, artToFrame, missingArtPx, insidePx } of cutSidesOver(scene, plane)) {
    if (!(insidePx >= SMALLEST_GAP_PX)) continue;
    const known = gaps.get(artSide);
    const worse = !known || insidePx > known.worstPx;
    gaps.set(artSide, {
      side: worse ? sideSeen(artToFrame, artSide) : known.side,
      artSide,
      worstPx: worse ? insidePx : known.worstPx,
      worstFrame: worse ? frame : known.worstFrame,
      firstFrame: known?.firstFrame ?? frame,
      frames: (known?.frames ?? 0) + 1,
      // What rounding alone adds is not worth a px of paint.
      paintArtPx: Math.max(known?.paintArtPx ?? 0, Math.ceil(missingArtPx - 1e-6)),
    });
  }
  return [...gaps.values()].sort((p, q) => q.worstPx - p.worstPx);
}

/** A side of the art at which the paint is cut off, at one frame of the shot. */
interface CutSide {
  readonly frame: number;
  readonly artSide: Side;
  readonly artToFrame: Affine;
  /** How far the frame reaches beyond the paint there, art px, and how far the edge stands inside the frame, output px; under 0 that much is spare. */
  readonly missingArtPx: number;
  readonly insidePx: number;
}

/** Every cut side of a plane at every frame of the shot. */
export function* cutSidesOver(scene: Scene, plane: Plane): Generator<CutSide> {
  for (let frame = 1; frame <= scene.lengthFrames; frame++) {
    const { artToFrame } = placePlane(
      stageFrameOf(scene),
      cameraPoseAt(scene, frame),
      standingAt(scene, plane, frame),
    );
    const back = artToFrame && invertAffine(artToFrame);
    const facts = factsAt(plane.content, frame, scene.rate);
    if (!artToFrame || !back || !facts.painted) continue;
    const seen = frameOnArt(back, scene.frame);
    for (const artSide of SIDES) {
      if (!isCut(plane.repeat, artSide, facts)) continue;
      const missingArtPx = beyond(seen, facts.painted, artSide, plane.repeat);
      const insidePx = missingArtPx * acrossPx(artToFrame, artSide);
      yield { frame, artSide, artToFrame, missingArtPx, insidePx };
    }
  }
}

/** Whether a plane ends at a side of its art at all: what is tiled along it does not. */
export const endsAt = (repeat: Repeat, artSide: Side): boolean =>
  !(isAcross(artSide) ? repeatsAcross(repeat) : repeatsDown(repeat));

/** Whether the paint is cut off at a side of the art: a plane that is tiled that way never ends. */
export const isCut = (repeat: Repeat, artSide: Side, facts: ArtFacts): boolean =>
  endsAt(repeat, artSide) && facts.cutEdges[artSide];
