import type { Point } from '../../geometry/index.ts';
import type { Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { factsOf } from '../content/index.ts';
import { copyPeriodPx, toNearestCopy } from '../frame/index.ts';
import { cameraPoseAt, stageFrameOf } from '../index.ts';
import { PLANE_NUMBERS, planeSampler } from './plane-sampler.ts';

/** Numbers the camera takes: x, y, z, zoom, roll as it sees. */
export const CAMERA_NUMBERS = 5;

/** Every frame of a shot, resolved: row after row of numbers. */
export interface ShotSample {
  readonly lengthFrames: number;
  readonly camera: Float64Array;
  /** Frame after frame, plane after plane as the scene lists them; NaN where the camera has passed one. */
  readonly planes: Float64Array;
  readonly planeCount: number;
}

/** Frames between two looks at whether to go on. */
const BATCH = 256;

/**
 * Samples frames 1 to the last into plans: the camera, and every plane's place. Speed on screen is how far the point of
 * a plane in the middle of the frame goes until the next frame, output px; NaN on the last, which has none. `onBatch` is called now and
 * then with the frames done; false ends the work, and null comes back.
 */
export function sampleShot(scene: Scene, onBatch?: (done: number) => boolean): ShotSample | null {
  const { lengthFrames } = scene;
  const planes = planesOf(scene);
  const stage = stageFrameOf(scene);
  const middle = { x: stage.widthPx / 2, y: stage.heightPx / 2 };
  const camera = new Float64Array(lengthFrames * CAMERA_NUMBERS);
  const rows = new Float64Array(lengthFrames * planes.length * PLANE_NUMBERS);
  const samplers = planes.map((plane) => planeSampler(scene, plane));
  const periods = planes.map(({ repeat, content }) =>
    repeat === 'none' ? null : copyPeriodPx(repeat, factsOf(content)),
  );
  for (let frame = 1; frame <= lengthFrames; frame++) {
    if (frame % BATCH === 0 && onBatch?.(frame) === false) return null;
    const pose = cameraPoseAt(scene, frame);
    const at = (frame - 1) * CAMERA_NUMBERS;
    camera[at] = pose.xSpx;
    camera[at + 1] = pose.ySpx;
    camera[at + 2] = pose.zSpx;
    camera[at + 3] = pose.zoom;
    camera[at + 4] = pose.rollDeg;
    for (let i = 0; i < planes.length; i++) {
      const row = ((frame - 1) * planes.length + i) * PLANE_NUMBERS;
      samplers[i]!(frame, pose, rows, row);
      const before = row - planes.length * PLANE_NUMBERS;
      if (frame > 1) rows[before + 6] = slide(rows, before, row, middle, periods[i]!);
    }
  }
  for (let i = 0; i < planes.length; i++)
    rows[((lengthFrames - 1) * planes.length + i) * PLANE_NUMBERS + 6] = Number.NaN;
  return { lengthFrames, camera, planes: rows, planeCount: planes.length };
}

/**
 * How far the art that was in the middle of the frame before has gone, of tiled art the nearest copy of it; NaN where
 * either is not there.
 */
function slide(rows: Float64Array, before: number, at: number, middle: Point, period: Point | null): number {
  let [x, y] = spotAt(rows, before, middle);
  if (period) {
    const [hereX, hereY] = spotAt(rows, at, middle);
    x = hereX + toNearestCopy(x - hereX, period.x);
    y = hereY + toNearestCopy(y - hereY, period.y);
  }
  return Math.hypot(
    rows[at]! * x + rows[at + 2]! * y + rows[at + 4]! - middle.x,
    rows[at + 1]! * x + rows[at + 3]! * y + rows[at + 5]! - middle.y,
  );
}

/** The spot of the art, art px, that lies at a place of the frame, by the affine at `at`. */
function spotAt(rows: Float64Array, at: number, { x, y }: Point): [number, number] {
  const [a, b, c, d] = [rows[at]!, rows[at + 1]!, rows[at + 2]!, rows[at + 3]!];
  const [dx, dy] = [x - rows[at + 4]!, y - rows[at + 5]!];
  const determinant = a * d - b * c;
  return [(d * dx - c * dy) / determinant, (a * dy - b * dx) / determinant];
}

/** Speed on screen of a plane over the shot, px a frame; NaN where it has been passed, and on the last frame. */
export const speedsOf = ({ planes, planeCount, lengthFrames }: ShotSample, index: number): number[] =>
  Array.from({ length: lengthFrames }, (_, f) => planes[(f * planeCount + index) * PLANE_NUMBERS + 6]!);
