import { isOnTrack } from '../../edits/keys/index.ts';
import { hexOfPacked } from '../../paint/index.ts';
import type { Plane, PlaneId, Scene } from '../../scene/index.ts';
import { pinsOf, planesOf } from '../../scene/records/index.ts';
import {
  allChannels,
  CHANNEL_KINDS,
  type ChannelKind,
  type ChannelRef,
  channelAt,
  interpolationOf,
  isColour,
  POSE_CHANNELS,
  pathPlaceAt,
  shownScale,
  shownValueAt,
  TRACK_AXES,
} from '../../staging/index.ts';
import { CAMERA_NUMBERS, PLANE_NUMBERS, type ShotSample } from '../../staging/sample/index.ts';
import { channelValueAt } from '../../timing/index.ts';

/** What of a shot is told: the camera, and which planes with their pins. */
export interface StageChoice {
  readonly camera: boolean;
  /** Null: all of them. */
  readonly planes: readonly PlaneId[] | null;
}

export const WHOLE_STAGE: StageChoice = { camera: true, planes: null };

export const STAGE_UNITS = [
  'spx',
  'ratio',
  'deg',
  'share',
  'px',
  'art px',
  'px/f',
  'colour',
  'frame px per art px',
] as const;
export type StageUnit = (typeof STAGE_UNITS)[number];

/** One value on every frame. */
export interface StageColumn {
  /** Null for the camera's. */
  readonly plane: PlaneId | null;
  /** The name of the pin that it is of, if any. */
  readonly pin: string | null;
  readonly name: string;
  readonly unit: StageUnit;
  /** NaN where there is none: a plane that has been passed, a speed on the last frame. */
  readonly at: (frame: number) => number | string;
}

/** Of the camera as it sees: swayed, with the zoom that keeps a size. */
const POSE_UNITS: Readonly<Record<(typeof POSE_CHANNELS)[number], StageUnit>> = {
  panX: 'spx',
  panY: 'spx',
  truck: 'spx',
  zoom: 'ratio',
  roll: 'deg',
};

/** What a sample holds of a plane on every frame, in its order. */
const SEEN: readonly (readonly [string, StageUnit])[] = [
  ['a', 'frame px per art px'],
  ['b', 'frame px per art px'],
  ['c', 'frame px per art px'],
  ['d', 'frame px per art px'],
  ['e', 'px'],
  ['f', 'px'],
  ['px/frame', 'px/f'],
  ['seen opacity', 'share'],
  ['blur px', 'px'],
  ['defocus px', 'px'],
  ['distance', 'spx'],
];

/**
 * Every channel as it is keyed, the camera as it sees, every plane's affine from art px to output px with its speed on
 * screen, opacity, blurs and distance, and where its pins are, output px. `sample` is the scene's own.
 */
export function stageColumns(
  scene: Scene,
  sample: ShotSample,
  { camera, planes }: StageChoice = WHOLE_STAGE,
): StageColumn[] {
  const isTold = (id: PlaneId) => planes === null || planes.includes(id);
  const told = planesOf(scene).flatMap((plane, index) => (isTold(plane.id) ? [{ plane, index }] : []));
  const channels = allChannels(scene).filter(
    (ref) =>
      ref.name !== 'track' &&
      (ref.on === 'camera' ? camera : isTold(ref.plane) && channelAt(scene, ref) !== null),
  );
  return [
    ...channels.map((ref) => channelColumn(scene, ref)),
    ...(camera ? poseColumns(scene, sample) : []),
    ...told.flatMap(({ plane, index }) => seenColumns(plane, index, sample)),
    ...told.flatMap(({ plane, index }) => pinColumns(plane, index, sample)),
  ];
}

const unitOf = (name: ChannelRef['name']): ChannelKind['unit'] =>
  name === 'track' ? 'spx' : CHANNEL_KINDS[name].unit;

function channelColumn(scene: Scene, ref: ChannelRef): StageColumn {
  const plane = ref.on === 'camera' ? null : ref.plane;
  const { name } = ref;
  return {
    plane,
    pin: null,
    name,
    unit: unitOf(name),
    at: shownValues(scene, ref, TRACK_AXES[name] ?? null),
  };
}

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

/** A sample counts the camera's place from the datum, the truck from home. */
function poseColumns(scene: Scene, sample: ShotSample): StageColumn[] {
  return POSE_CHANNELS.map((name, i) => {
    const from = name === 'truck' ? scene.homeDistanceSpx : 0;
    return {
      plane: null,
      pin: null,
      name: `camera ${name}`,
      unit: POSE_UNITS[name],
      at: (frame) => sample.camera[(frame - 1) * CAMERA_NUMBERS + i]! + from,
    };
  });
}

const rowOf = ({ planeCount }: ShotSample, index: number, frame: number): number =>
  ((frame - 1) * planeCount + index) * PLANE_NUMBERS;

const seenColumns = ({ id }: Plane, index: number, sample: ShotSample): StageColumn[] =>
  SEEN.map(([name, unit], i) => ({
    plane: id,
    pin: null,
    name,
    unit,
    at: (frame) => sample.planes[rowOf(sample, index, frame) + i]!,
  }));

function pinColumns(plane: Plane, index: number, sample: ShotSample): StageColumn[] {
  const numbers = sample.planes;
  return pinsOf(plane).flatMap(({ name, xArtPx, yArtPx }) =>
    (['x', 'y'] as const).map((axis, i) => ({
      plane: plane.id,
      pin: name,
      name: axis,
      unit: 'px' as const,
      at: (frame: number) => {
        const row = rowOf(sample, index, frame) + i;
        return numbers[row]! * xArtPx + numbers[row + 2]! * yArtPx + numbers[row + 4]!;
      },
    })),
  );
}
