import {
  allChannels,
  type ChannelRef,
  cameraPoseAt,
  channelAt,
  interpolationOf,
  isOnTrack,
  POSE_CHANNELS,
  pathPlaceAt,
  planesOf,
  type Scene,
  shownScale,
  stageFrameOf,
  TRACK_AXES,
} from '../document/index.ts';
import type { Point } from '../geometry/index.ts';
import { channelValueAt } from '../timing/index.ts';
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
 * a plane in the middle of the frame goes until the next frame, output px; 0 on the last. `onBatch` is called now and
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
      if (frame > 1) rows[row - planes.length * PLANE_NUMBERS + 6] = slide(rows, row, planes.length, middle);
    }
  }
  return { lengthFrames, camera, planes: rows, planeCount: planes.length };
}

/** How far the art that was in the middle of the frame before has gone; NaN where either is not there. */
function slide(rows: Float64Array, at: number, planeCount: number, middle: Point): number {
  const before = at - planeCount * PLANE_NUMBERS;
  const [a, b, c, d] = [rows[before]!, rows[before + 1]!, rows[before + 2]!, rows[before + 3]!];
  const [dx, dy] = [middle.x - rows[before + 4]!, middle.y - rows[before + 5]!];
  const determinant = a * d - b * c;
  const x = (d * dx - c * dy) / determinant;
  const y = (a * dy - b * dx) / determinant;
  return Math.hypot(
    rows[at]! * x + rows[at + 2]! * y + rows[at + 4]! - middle.x,
    rows[at + 1]! * x + rows[at + 3]! * y + rows[at + 5]! - middle.y,
  );
}

/** Speed on screen of a plane over the shot, px a frame; NaN where it has been passed. */
export const speedsOf = ({ planes, planeCount, lengthFrames }: ShotSample, index: number): number[] =>
  Array.from({ length: lengthFrames }, (_, f) => planes[(f * planeCount + index) * PLANE_NUMBERS + 6]!);

/** A channel at every frame, as it is shown; from the track where that stands for it. */
function shownValues(scene: Scene, ref: ChannelRef, axis: 0 | 1 | 2 | null): (frame: number) => number {
  const { show } = shownScale(scene, ref);
  if (axis !== null && isOnTrack(scene, ref)) {
    const owner =
      ref.on === 'camera' ? { on: 'camera' as const } : { on: 'plane' as const, plane: ref.plane };
    return (frame) => show(pathPlaceAt(scene, owner, frame)[axis]);
  }
  const channel = channelAt(scene, ref);
  const interpolation = interpolationOf(scene, ref.name);
  return channel ? (frame) => show(channelValueAt(channel, frame, interpolation)) : () => 0;
}

/** A cell as RFC 4180 has it. */
const cell = (value: string | number): string =>
  typeof value === 'number'
    ? Number.isNaN(value)
      ? ''
      : String(value)
    : /[",\n\r]/.test(value)
      ? `"${value.replaceAll('"', '""')}"`
      : value;

/**
 * The shot as CSV (RFC 4180), one line a frame, in batches of lines: every channel as it is keyed, the camera as it sees
 * (swayed, with the zoom that keeps a size), every plane's affine from art px to output px and its speed on screen.
 */
export function* sampleCsv(scene: Scene): Generator<string> {
  const sample = sampleShot(scene)!;
  const planeNames = uniqueNames(scene);
  const channels = allChannels(scene).filter(
    (ref) => ref.name !== 'track' && (ref.on === 'camera' || channelAt(scene, ref)),
  );
  const columns = channels.map((ref) => ({
    title: ref.on === 'camera' ? ref.name : `${planeNames.get(ref.plane)} ${ref.name}`,
    at: shownValues(scene, ref, TRACK_AXES[ref.name] ?? null),
  }));
  const seen = POSE_CHANNELS.map((name) => `camera ${name}`);
  const placed = ['a', 'b', 'c', 'd', 'e', 'f', 'px/frame', 'opacity', 'blur px', 'defocus px'];
  const planeTitles = planesOf(scene).flatMap(({ id }) =>
    placed.map((name) => `${planeNames.get(id)} ${name}`),
  );
  yield `${['frame', ...columns.map(({ title }) => title), ...seen, ...planeTitles].map(cell).join(',')}\r\n`;
  for (let frame = 1; frame <= sample.lengthFrames; frame++) {
    const [x, y, z, zoom, roll] = sample.camera.subarray(
      (frame - 1) * CAMERA_NUMBERS,
      frame * CAMERA_NUMBERS,
    );
    const width = sample.planeCount * PLANE_NUMBERS;
    const rows = sample.planes.subarray((frame - 1) * width, frame * width);
    const cells = [
      frame,
      ...columns.map(({ at }) => at(frame)),
      x!,
      y!,
      z! + scene.homeDistanceSpx,
      zoom!,
      roll!,
      ...rows,
    ];
    yield `${cells.map(cell).join(',')}\r\n`;
  }
}

function uniqueNames(scene: Scene): Map<string, string> {
  const names = planesOf(scene).map(({ name }) => name);
  return new Map(
    planesOf(scene).map(({ id, name }) => [
      id,
      names.filter((n) => n === name).length > 1 ? `${name} (${id})` : name,
    ]),
  );
}
