import { CLEAR_VISIBILITY_SPX, MOST_SOFT_EDGE_PX } from '../paint/index.ts';
import type { PlaneId, Scene } from '../scene/index.ts';
import { channelOf, planeOf, planesOf } from '../scene/records/index.ts';
import { type Channel, channelValueAt, type Interpolation } from '../timing/index.ts';
import { type Track, trackAsChannel, trackPlaceAt } from '../timing/moves/index.ts';
import { CAMERA_CHANNELS, type CameraChannel, isCameraLook } from './camera-channels.ts';
import {
  cameraLookChannel,
  focusDepthAt,
  isPlaneLook,
  lookInterpolation,
  PLANE_LOOKS,
  planeLookChannel,
} from './looks/index.ts';
import { PLANE_MOVES, type PlaneMove } from './plane-at.ts';

export const PLANE_CHANNELS = [...PLANE_MOVES, ...PLANE_LOOKS, 'runX', 'runY'] as const;

export type PlaneChannel = (typeof PLANE_CHANNELS)[number];

/** One row of the timing: a channel of the camera or a plane, or the track that stands for three of them. */
export type ChannelRef =
  | { readonly on: 'camera'; readonly name: CameraChannel | 'track' }
  | { readonly on: 'plane'; readonly plane: PlaneId; readonly name: PlaneChannel | 'track' };

export type ChannelName = ChannelRef['name'];

/** A `ChannelRef` as text, for sets and maps. */
export type ChannelId = string & { readonly __channel: never };

export const channelId = (ref: ChannelRef): ChannelId =>
  (ref.on === 'camera' ? `camera/${ref.name}` : `plane/${ref.name}/${ref.plane}`) as ChannelId;

export function channelRef(id: ChannelId): ChannelRef {
  const [on, name = '', ...plane] = id.split('/');
  const ref = on === 'camera' ? { on, name } : { on: 'plane', name, plane: plane.join('/') };
  return ref as ChannelRef;
}

export interface ChannelKind {
  readonly unit: 'spx' | 'ratio' | 'deg' | 'share' | 'px' | 'art px' | 'px/f' | 'colour';
  /** Bounds of what is shown; an ease may only overshoot where there are none. */
  readonly min?: number;
  readonly max?: number;
}

/** Zoom and size run in log, for even growth each frame, unless the shot says otherwise; truck in distance. */
export const CHANNEL_KINDS: Readonly<Record<Exclude<ChannelName, 'track'>, ChannelKind>> = {
  panX: { unit: 'spx' },
  panY: { unit: 'spx' },
  truck: { unit: 'spx' },
  zoom: { unit: 'ratio', min: 1e-4, max: 1e4 },
  roll: { unit: 'deg' },
  focus: { unit: 'spx' },
  iris: { unit: 'spx', min: 0 },
  x: { unit: 'spx' },
  y: { unit: 'spx' },
  depth: { unit: 'spx' },
  scale: { unit: 'ratio', min: 1e-4, max: 1e4 },
  rotation: { unit: 'deg' },
  opacity: { unit: 'share', min: 0, max: 1 },
  blur: { unit: 'px', min: 0, max: 1000 },
  airColour: { unit: 'colour' },
  visibility: { unit: 'spx', min: 1, max: CLEAR_VISIBILITY_SPX },
  brightness: { unit: 'share', min: 0, max: 4 },
  saturation: { unit: 'share', min: 0, max: 4 },
  tint: { unit: 'colour' },
  tintStrength: { unit: 'share', min: 0, max: 1 },
  glow: { unit: 'share', min: 0, max: 1 },
  vignette: { unit: 'share', min: 0, max: 1 },
  softEdge: { unit: 'art px', min: 0, max: MOST_SOFT_EDGE_PX },
  runX: { unit: 'px/f' },
  runY: { unit: 'px/f' },
};

/** Which coordinate of a track stands in place of a channel. */
export const TRACK_AXES: Readonly<Partial<Record<ChannelName, 0 | 1 | 2>>> = {
  panX: 0,
  panY: 1,
  truck: 2,
  x: 0,
  y: 1,
  depth: 2,
};

/** Channels of colours, which are kept packed. */
export const isColour = (name: ChannelName): boolean => name === 'airColour' || name === 'tint';

/** Channels whose values may leave those of their keys: all that are not shares, widths or colours. */
export const mayOvershoot = (name: ChannelName): boolean =>
  name !== 'opacity' && name !== 'blur' && name !== 'iris' && !isCameraLook(name) && !isPlaneLook(name);

export function interpolationOf(
  scene: Pick<Scene, 'move' | 'homeDistanceSpx'>,
  name: ChannelName,
): Interpolation {
  if (name === 'zoom') return scene.move.zoomSteps === 'even' ? 'log' : 'linear';
  if (name === 'truck') return scene.move.truckSteps === 'even' ? { logTo: scene.homeDistanceSpx } : 'linear';
  if (isCameraLook(name) || isPlaneLook(name)) return lookInterpolation(name);
  return name === 'scale' ? 'log' : 'linear';
}

const neutral = (name: PlaneMove): Channel => ({
  value: name === 'scale' || name === 'opacity' ? 1 : 0,
  keys: [],
});

export const trackOf = (scene: Scene, ref: ChannelRef): Track | null =>
  ref.on === 'camera' ? scene.move.track : (planeOf(scene, ref.plane)?.track ?? null);

/**
 * The channel as it is stored: a plane's own moves count from how it stands on the Stage. Null where there is none: a
 * plane that is gone, or one that does not run by speed. A track's values count its keys.
 */
export function channelAt(scene: Scene, ref: ChannelRef): Channel | null {
  if (ref.name === 'track') {
    const track = trackOf(scene, ref);
    return track && trackAsChannel(track);
  }
  if (ref.on === 'camera')
    return isCameraLook(ref.name) ? cameraLookChannel(scene, ref.name) : channelOf(scene.camera[ref.name]);
  const plane = planeOf(scene, ref.plane);
  if (!plane) return null;
  if (ref.name === 'runX' || ref.name === 'runY') {
    return plane.run?.kind === 'speed' ? channelOf(plane.run[ref.name === 'runX' ? 'x' : 'y']) : null;
  }
  if (isPlaneLook(ref.name)) return planeLookChannel(plane, ref.name);
  const move = plane.moves[ref.name];
  return move ? channelOf(move) : neutral(ref.name);
}

/** What a stored value means to the artist, and the way back: the plane's own number at rest is added or multiplied. */
export function shownScale(
  scene: Scene,
  ref: ChannelRef,
): { readonly show: (stored: number) => number; readonly store: (shown: number) => number } {
  const plane = ref.on === 'plane' ? planeOf(scene, ref.plane) : undefined;
  const added = (base: number) => ({ show: (v: number) => v + base, store: (v: number) => v - base });
  const times = (base: number) => ({ show: (v: number) => v * base, store: (v: number) => v / base });
  if (!plane) return added(0);
  switch (ref.name) {
    case 'x':
      return added(plane.transform.xSpx);
    case 'y':
      return added(plane.transform.ySpx);
    case 'depth':
      return added(plane.depthSpx);
    case 'rotation':
      return added(plane.transform.rotationDeg);
    case 'scale':
      return times(Math.abs(plane.transform.scaleX));
    case 'opacity':
      return times(plane.opacity || 1);
    case 'blur':
      return added(plane.grade?.blurPx ?? 0);
    default:
      return added(0);
  }
}

/** The value that the artist sees at `frame`, in the channel's unit. */
export function shownValueAt(scene: Scene, ref: ChannelRef, frame: number): number {
  const axis = TRACK_AXES[ref.name];
  const track = axis === undefined ? null : trackOf(scene, ref);
  if (track && axis !== undefined && !track.muted) {
    return shownScale(scene, ref).show(trackPlaceAt(track, frame)[axis]);
  }
  if (ref.name === 'focus') return focusDepthAt(scene, frame);
  const channel = channelAt(scene, ref);
  if (!channel) return 0;
  return shownScale(scene, ref).show(channelValueAt(channel, frame, interpolationOf(scene, ref.name)));
}

/** Every channel of the scene that has keys, in the order of the rows: the camera, then planes as listed. */
export function keyedChannels(scene: Scene): ChannelRef[] {
  return allChannels(scene).filter((ref) => (channelAt(scene, ref)?.keys.length ?? 0) > 0);
}

export function allChannels(scene: Scene): ChannelRef[] {
  const camera = (['track', ...CAMERA_CHANNELS] as const).map((name) => ({ on: 'camera' as const, name }));
  return [
    ...camera,
    ...planesOf(scene).flatMap(({ id }) =>
      (['track', ...PLANE_CHANNELS] as const).map((name) => ({ on: 'plane' as const, plane: id, name })),
    ),
  ];
}
