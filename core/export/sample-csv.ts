import { isOnTrack } from '../edits/keys/index.ts';
import { hexOfPacked } from '../paint/index.ts';
import type { PlaneId, Scene } from '../scene/index.ts';
import { planesOf } from '../scene/records/index.ts';
import {
  allChannels,
  type ChannelRef,
  channelAt,
  interpolationOf,
  isColour,
  POSE_CHANNELS,
  pathPlaceAt,
  shownScale,
  shownValueAt,
  TRACK_AXES,
} from '../staging/index.ts';
import { CAMERA_NUMBERS, PLANE_NUMBERS, sampleShot } from '../staging/sample/index.ts';
import { channelValueAt } from '../timing/index.ts';

/** A channel at every frame, as it is shown; from the track where that stands for it. */
function shownValues(
  scene: Scene,
  ref: ChannelRef,
  axis: 0 | 1 | 2 | null,
): (frame: number) => number | string {
  const { show } = shownScale(scene, ref);
  if (axis !== null && isOnTrack(scene, ref)) {
    const owner =
      ref.on === 'camera' ? { on: 'camera' as const } : { on: 'plane' as const, plane: ref.plane };
    return (frame) => show(pathPlaceAt(scene, owner, frame)[axis]);
  }
  // Where it follows planes, it is where they are.
  if (ref.name === 'focus') return (frame) => shownValueAt(scene, ref, frame);
  const channel = channelAt(scene, ref);
  const interpolation = interpolationOf(scene, ref.name);
  if (channel && isColour(ref.name))
    return (frame) => hexOfPacked(channelValueAt(channel, frame, interpolation));
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
  const planes = planesOf(scene);
  const channels = allChannels(scene).filter(
    (ref) => ref.name !== 'track' && (ref.on === 'camera' || channelAt(scene, ref)),
  );
  const columns = channels.map((ref) => shownValues(scene, ref, TRACK_AXES[ref.name] ?? null));
  const titles = titlesOf(scene, [
    ...channels.map((ref) => ({ plane: ref.on === 'camera' ? null : ref.plane, name: ref.name })),
    ...POSE_CHANNELS.map((name) => ({ plane: null, name: `camera ${name}` })),
    ...planes.flatMap(({ id }) => SEEN.map((name) => ({ plane: id, name }))),
  ]);
  yield `${['frame', ...titles].map(cell).join(',')}\r\n`;
  for (let frame = 1; frame <= sample.lengthFrames; frame++) {
    const [x, y, z, zoom, roll] = sample.camera.subarray(
      (frame - 1) * CAMERA_NUMBERS,
      frame * CAMERA_NUMBERS,
    );
    const width = sample.planeCount * PLANE_NUMBERS;
    const rows = sample.planes.subarray((frame - 1) * width, frame * width);
    const cells = [
      frame,
      ...columns.map((at) => at(frame)),
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

/** What is said of a plane on every frame as it is seen, beside its channels as they are keyed. */
const SEEN = ['a', 'b', 'c', 'd', 'e', 'f', 'px/frame', 'seen opacity', 'blur px', 'defocus px'];

interface Column {
  /** Null for the camera's. */
  readonly plane: PlaneId | null;
  readonly name: string;
}

/** Titles by the planes' names; with the ids of planes where two titles would be the same, whatever they are of. */
function titlesOf(scene: Scene, columns: readonly Column[]): string[] {
  const names = new Map(planesOf(scene).map(({ id, name }) => [id, name] as const));
  const byId = new Set<PlaneId>();
  const titleOf = ({ plane, name }: Column): string => {
    if (plane === null) return name;
    return byId.has(plane) ? `${names.get(plane)} (${plane}) ${name}` : `${names.get(plane)} ${name}`;
  };
  // A name may look like one with its id: those that meet are told apart until none do.
  for (let before = -1; byId.size > before; ) {
    before = byId.size;
    const titles = columns.map(titleOf);
    const count = new Map<string, number>();
    for (const title of titles) count.set(title, (count.get(title) ?? 0) + 1);
    columns.forEach(({ plane }, i) => {
      if (plane !== null && (count.get(titles[i] as string) as number) > 1) byId.add(plane);
    });
  }
  return columns.map(titleOf);
}
