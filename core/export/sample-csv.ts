import { isOnTrack } from '../edits/keys/index.ts';
import type { Scene } from '../scene/index.ts';
import { planesOf } from '../scene/records/index.ts';
import {
  allChannels,
  type ChannelRef,
  channelAt,
  interpolationOf,
  POSE_CHANNELS,
  pathPlaceAt,
  shownScale,
  TRACK_AXES,
} from '../staging/index.ts';
import { CAMERA_NUMBERS, PLANE_NUMBERS, sampleShot } from '../staging/sample/index.ts';
import { channelValueAt } from '../timing/index.ts';

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
