import { applyAffine, type Box, invertAffine, type Point } from '../geometry/index.ts';
import type { Scene } from '../scene/index.ts';
import { type Carrier, homePose, ON_STAGE, placePlane } from '../stage/index.ts';
import { cameraPoseAt, stageFrameOf } from './camera-at.ts';

/**
 * The smallest upright box, in px of the carrier, that every frame of the shot sees on a plane at `depthSpx` from it;
 * null when the camera is past the plane all through.
 */
export function seenBox(scene: Scene, depthSpx: number, carrier: Carrier = ON_STAGE): Box | null {
  const standing = {
    root: carrier.root,
    depthSpx: carrier.depthSpx + carrier.depthScale * depthSpx,
    artToStage: carrier.toStage,
  };
  const { widthPx, heightPx } = scene.frame;
  const corners = [
    { x: 0, y: 0 },
    { x: widthPx, y: 0 },
    { x: 0, y: heightPx },
    { x: widthPx, y: heightPx },
  ];
  const frame = stageFrameOf(scene);
  let box: Box | null = null;
  const poses = [
    homePose(frame),
    ...Array.from({ length: scene.lengthFrames }, (_, i) => cameraPoseAt(scene, i + 1)),
  ];
  for (const pose of poses) {
    const { artToFrame } = placePlane(frame, pose, standing);
    const back = artToFrame && invertAffine(artToFrame);
    if (back) for (const corner of corners) box = withPoint(box, applyAffine(back, corner));
  }
  return box;
}

/** The box grown so that the point lies in it. */
const withPoint = (box: Box | null, { x, y }: Point): Box =>
  box
    ? { x0: Math.min(box.x0, x), y0: Math.min(box.y0, y), x1: Math.max(box.x1, x), y1: Math.max(box.y1, y) }
    : { x0: x, y0: y, x1: x, y1: y };
