import type { Plane, Scene } from '../scene/index.ts';
import { keysOf } from '../scene/records/index.ts';
import { placePlane } from '../stage/index.ts';
import { factsOf } from '../staging/content/index.ts';
import { cameraPoseAt, seenBox, stageFrameOf, standingAt } from '../staging/index.ts';

/** How a painting's size stands to what the shot shows of it. */
export interface PaintingNeeds {
  /** Stage px that the move sees on the datum, and those that the painting covers there. */
  readonly seenWidthSpx: number;
  readonly seenHeightSpx: number;
  readonly coversWidthSpx: number;
  readonly coversHeightSpx: number;
  /** Painted px that are missing across and down; 0 where there are enough. */
  readonly shortWidthPx: number;
  readonly shortHeightPx: number;
  /** Output px per painted px at home on the datum; above 1 the painting is enlarged and soft. */
  readonly enlargedBy: number;
  /** Whether the camera moves at all yet. */
  readonly moves: boolean;
}

/**
 * Measures a painting that is to be put on the datum at `scale` stage px a painted px, centred, against everything
 * that the camera sees there. Working art is usually two or three times the frame in the direction of the move
 * (common practice, no source); this says how much this move needs.
 */
export function paintingNeeds(
  scene: Scene,
  painting: { widthPx: number; heightPx: number },
  scale: number,
): PaintingNeeds {
  const seen = seenBox(scene, 0) ?? {
    x0: 0,
    y0: 0,
    x1: scene.frame.widthPx,
    y1: scene.frame.heightPx,
  };
  // The painting stands centred on the axis: what counts is the farthest that the move goes to either side.
  const seenWidthSpx = 2 * Math.max(Math.abs(seen.x0), Math.abs(seen.x1));
  const seenHeightSpx = 2 * Math.max(Math.abs(seen.y0), Math.abs(seen.y1));
  const [coversWidthSpx, coversHeightSpx] = [painting.widthPx * scale, painting.heightPx * scale];
  const short = (needs: number, has: number) => Math.max(0, Math.ceil((needs - has) / scale - 1e-6));
  return {
    seenWidthSpx,
    seenHeightSpx,
    coversWidthSpx,
    coversHeightSpx,
    shortWidthPx: short(seenWidthSpx, coversWidthSpx),
    shortHeightPx: short(seenHeightSpx, coversHeightSpx),
    enlargedBy: scale,
    moves: Object.values(scene.camera).some((channel) => keysOf(channel).length > 1),
  };
}

/** Largest output px per art px of a plane over the shot: above 1 it is soft. 0 where it is never in front. */
export function largestScale(scene: Scene, plane: Plane): number {
  const frame = stageFrameOf(scene);
  let largest = 0;
  for (let at = 1; at <= scene.lengthFrames; at++) {
    const { artToFrame: m } = placePlane(frame, cameraPoseAt(scene, at), standingAt(scene, plane, at));
    if (m) largest = Math.max(largest, Math.hypot(m.a, m.b), Math.hypot(m.c, m.d));
  }
  return factsOf(plane.content).painted ? largest : 0;
}
