import type { Box } from '../../geometry/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { movePlanesOnFrame } from './place.ts';
import { boxesOnFrame, boxRound } from './together.ts';

export const ALIGNMENTS = ['left', 'centre', 'right', 'top', 'middle', 'bottom'] as const;
export type Alignment = (typeof ALIGNMENTS)[number];

/** Where along its axis the aligned line of a box lies. */
function lineOf({ x0, y0, x1, y1 }: Box, alignment: Alignment): number {
  switch (alignment) {
    case 'left':
      return x0;
    case 'right':
      return x1;
    case 'centre':
      return (x0 + x1) / 2;
    case 'top':
      return y0;
    case 'bottom':
      return y1;
    case 'middle':
      return (y0 + y1) / 2;
  }
}

const isAcross = (alignment: Alignment): boolean =>
  alignment === 'left' || alignment === 'centre' || alignment === 'right';

/** Lines the paint of planes up on the picture at `frame`, with the frame's own sides or with one another's. */
export function alignPlanes(
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  alignment: Alignment,
  to: 'frame' | 'each-other',
  frame: number,
): Scene {
  const boxes = boxesOnFrame(scene, ids, frame);
  const round = boxRound(boxes.map(({ box }) => box));
  if (!round) return scene;
  const { widthPx, heightPx } = scene.frame;
  const goal = lineOf(to === 'frame' ? { x0: 0, y0: 0, x1: widthPx, y1: heightPx } : round, alignment);
  return boxes.reduce((changed, { id, box }) => {
    const by = goal - lineOf(box, alignment);
    return movePlanesOnFrame(
      changed,
      new Set([id]),
      isAcross(alignment) ? { x: by, y: 0 } : { x: 0, y: by },
      frame,
    );
  }, scene);
}

/**
 * Evens out the gaps between the paint of planes on the picture at `frame`, along one axis: between the outermost two
 * of them, which stay, or from side to side of the frame. Nothing changes with fewer than three (two for the frame).
 */
export function distributePlanes(
  scene: Scene,
  ids: ReadonlySet<PlaneId>,
  way: 'across' | 'down',
  to: 'frame' | 'each-other',
  frame: number,
): Scene {
  const sides = ({ x0, y0, x1, y1 }: Box) => (way === 'across' ? { from: x0, to: x1 } : { from: y0, to: y1 });
  const boxes = boxesOnFrame(scene, ids, frame)
    .map(({ id, box }) => ({ id, ...sides(box) }))
    .sort((p, q) => p.from + p.to - (q.from + q.to));
  const [first, last] = [boxes[0], boxes.at(-1)];
  if (!first || !last || boxes.length < (to === 'frame' ? 2 : 3)) return scene;
  const size = way === 'across' ? scene.frame.widthPx : scene.frame.heightPx;
  const [start, end] = to === 'frame' ? [0, size] : [first.from, last.to];
  const filled = boxes.reduce((sum, box) => sum + box.to - box.from, 0);
  const gap = (end - start - filled) / (boxes.length - 1);
  let at = start;
  return boxes.reduce((changed, box) => {
    const by = at - box.from;
    at += box.to - box.from + gap;
    return movePlanesOnFrame(
      changed,
      new Set([box.id]),
      way === 'across' ? { x: by, y: 0 } : { x: 0, y: by },
      frame,
    );
  }, scene);
}
