import type { Scene } from '../../scene/index.ts';
import { cameraPoseAt, lensAt } from '../index.ts';

/** Less of a blur than this is sharp, output px. */
export const SHARP_PX = 1;

/** Depths between which everything is sharp, spx from the datum; the far one may be endless. */
export interface SharpBand {
  readonly nearSpx: number;
  readonly farSpx: number;
}

/**
 * Where b = iris·f·|1/s − 1/d| is less than one px: 1/d within 1/(iris·f) of 1/s. Null where the iris is shut, so that
 * all is sharp, or nothing can be: the focus lies behind the camera.
 */
export function sharpBandAt(scene: Scene, frame: number): SharpBand | null {
  const pose = cameraPoseAt(scene, frame);
  const lens = lensAt(scene, frame, pose);
  if (!lens || !(lens.focusDistanceSpx > 0)) return null;
  const within = SHARP_PX / (lens.irisSpx * lens.focalPx);
  const [near, far] = [1 / lens.focusDistanceSpx + within, 1 / lens.focusDistanceSpx - within];
  return { nearSpx: 1 / near + pose.zSpx, farSpx: far > 0 ? 1 / far + pose.zSpx : Number.POSITIVE_INFINITY };
}
