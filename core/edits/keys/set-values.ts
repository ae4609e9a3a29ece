import type { Scene } from '../../scene/index.ts';
import { channelOf, planeOf, recordOf } from '../../scene/records/index.ts';
import {
  CAMERA_CHANNELS,
  type CameraChannel,
  CHANNEL_KINDS,
  type ChannelRef,
  channelAt,
  interpolationOf,
  shownScale,
  TRACK_AXES,
  trackOf,
} from '../../staging/index.ts';
import { focusChannelAt } from '../../staging/looks/index.ts';
import { type Channel, type Interpolation, putKey, shiftChannel } from '../../timing/index.ts';
import { putTrackKey, shiftTrack, trackPlaceAt } from '../../timing/moves/index.ts';
import { withPlane } from '../planes/index.ts';
import { withChannel, withTrack } from './with-channel.ts';

export interface CameraChange {
  readonly frame: number;
  /** On: the value is keyed at the frame. Off: the whole channel shifts and no key is ever made. */
  readonly keying: boolean;
}

/** Whether a track stands in place of this channel now. */
export function isOnTrack(scene: Scene, ref: ChannelRef): boolean {
  const track = TRACK_AXES[ref.name] === undefined ? null : trackOf(scene, ref);
  return track !== null && !track.muted;
}

/** Whether no edit reaches the channel: it, its track or its plane is locked. */
export function isChannelLocked(scene: Scene, ref: ChannelRef): boolean {
  if (ref.on === 'plane' && planeOf(scene, ref.plane)?.locked) return true;
  return ref.name === 'track' || isOnTrack(scene, ref)
    ? trackOf(scene, ref)?.locked === true
    : channelAt(scene, ref)?.locked === true;
}

/** Gives one channel a value, in the unit in which it is shown: keyed at a frame, or shifting the whole of it. */
export function setChannelValue(scene: Scene, ref: ChannelRef, shown: number, change: CameraChange): Scene {
  if (isChannelLocked(scene, ref)) return scene;
  const { min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY } =
    ref.name === 'track' ? {} : CHANNEL_KINDS[ref.name];
  const value = Math.min(max, Math.max(min, shown));
  if (isOnTrack(scene, ref)) return onTrack(scene, ref, value, change);
  const visible = seeable(change.keying ? scene : plainFocus(scene, ref), ref, value);
  const channel = channelAt(visible, ref);
  if (!channel) return scene;
  const stored = shownScale(visible, ref).store(value);
  const { frame, keying } = change;
  const changed: Channel = keying
    ? putKey(fromTheStart(channel, frame), frame, stored)
    : shiftChannel(channel, frame, stored, shiftOf(interpolationOf(scene, ref.name)));
  return withChannel(visible, ref, changed);
}

/** What counts from something else than nought is shifted by a step. */
const shiftOf = (interpolation: Interpolation): Interpolation =>
  typeof interpolation === 'object' ? 'linear' : interpolation;

/**
 * The first key of a channel moves nothing before it: away from frame 1 that one is keyed as it was, or the whole shot
 * would move.
 */
export function fromTheStart(channel: Channel, frame: number): Channel {
  if (channel.keys.length > 0 || frame <= 1) return channel;
  const { keys, ...rest } = putKey(channel, 1, channel.value);
  return { ...rest, keys: keys.map((key) => (channel.follows ? { ...key, follows: channel.follows } : key)) };
}

/** A focus that follows planes cannot be shifted: it goes on by the depths that they have at its keys. */
function plainFocus(scene: Scene, ref: ChannelRef): Scene {
  if (ref.name !== 'focus') return scene;
  const { follows: _, keys, ...rest } = channelOf(scene.camera.focus);
  const at = (frame: number) => focusChannelAt(scene, frame);
  const plain = keys.map(({ follows: _f, ...key }, i) => ({ ...key, value: at(key.frame).keys[i]!.value }));
  return {
    ...scene,
    camera: { ...scene.camera, focus: recordOf({ ...rest, value: at(1).value, keys: plain }) },
  };
}

/** What is fully transparent at rest cannot be shown by a share of that: it is made opaque, and its keys say how far. */
function seeable(scene: Scene, ref: ChannelRef, value: number): Scene {
  if (ref.on !== 'plane' || ref.name !== 'opacity' || value === 0) return scene;
  const plane = planeOf(scene, ref.plane);
  return plane?.opacity === 0 ? withPlane(scene, ref.plane, (p) => ({ ...p, opacity: 1 })) : scene;
}

/** A value of a channel that a track stands for is a place on it: of its key at the frame, or of all of it. */
function onTrack(scene: Scene, ref: ChannelRef, shown: number, { frame, keying }: CameraChange): Scene {
  const track = trackOf(scene, ref);
  const axis = TRACK_AXES[ref.name];
  if (!track || axis === undefined) return scene;
  const now = trackPlaceAt(track, frame);
  const stored = shownScale(scene, ref).store(shown);
  const by: [number, number, number] = [0, 0, 0];
  by[axis] = stored - now[axis];
  const moved = keying
    ? putTrackKey(track, frame, [now[0] + by[0], now[1] + by[1], now[2] + by[2]])
    : shiftTrack(track, by);
  return withTrack(scene, ref, moved);
}

/** Gives camera channels new values at a frame. */
export function setCamera(
  scene: Scene,
  values: Partial<Record<CameraChannel, number>>,
  change: CameraChange,
): Scene {
  return CAMERA_CHANNELS.reduce((changed, name) => {
    const value = values[name];
    return value === undefined ? changed : setChannelValue(changed, { on: 'camera', name }, value, change);
  }, scene);
}
