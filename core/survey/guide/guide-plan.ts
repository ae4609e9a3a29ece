import type { Scene } from '../../scene/index.ts';
import { type FramePlan, framePlan } from '../../staging/frame/index.ts';
import { SET_UP_FRAME } from '../survey-run.ts';
import type { ArtSight } from './sight.ts';

/**
 * A plane's paint alone on the canvas of its guide, as a plan that a renderer draws: nothing of its looks, px for px
 * where the file is as fine as the art. What moves stands as at its worst frame. Null where no such plane is drawn.
 */
export function guidePlan(scene: Scene, { canvas, worst }: ArtSight): FramePlan | null {
  const plan = framePlan(scene, worst?.frame ?? SET_UP_FRAME);
  const own = plan.planes.find(({ planeId }) => planeId === canvas.planeId);
  if (!own) return null;
  const { scale, xPx, yPx, fileWidthPx, fileHeightPx } = canvas;
  return {
    ...plan,
    widthPx: fileWidthPx,
    heightPx: fileHeightPx,
    vignette: 0,
    glow: 0,
    planes: [
      {
        ...own,
        state: 'drawn',
        artToFrame: { a: scale, b: 0, c: 0, d: scale, e: xPx * scale, f: yPx * scale },
        opacity: 1,
        blurPx: 0,
        defocusPx: 0,
        look: { matrix: null, air: null, filtered: false },
        repeat: 'none',
      },
    ],
  };
}
