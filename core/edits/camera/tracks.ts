import type { Scene } from '../../scene/index.ts';
import {
  channelAt,
  interpolationOf,
  type PathOwner,
  pathRefsOf,
  trackOf,
  trackRefOf,
} from '../../staging/index.ts';
import { type Channel, type Key, keyAt, reduceToKeys, splitAt } from '../../timing/index.ts';
import {
  beyondOf,
  type Place,
  type Track,
  type TrackPoint,
  trackKeys,
  trackPlaceAt,
} from '../../timing/moves/index.ts';
import { withChannel, withTrack } from '../keys/index.ts';

/**
 * Turns the three channels into one track: a key wherever one of them has one, passed without a corner, with the ease
 * of the channel that goes farthest in each span. Null where nothing is keyed or any of them is locked.
 */
export function makeTrack(scene: Scene, owner: PathOwner): Scene | null {
  const refs = pathRefsOf(owner);
  const channels = refs.map((ref) => channelAt(scene, ref));
  if (channels.some((channel) => !channel || channel.locked)) return null;
  const frames = [...new Set(channels.flatMap((channel) => channel!.keys.map((key) => key.frame)))].sort(
    (p, q) => p - q,
  );
  if (frames.length === 0) return null;
  const full = channels.map((channel, axis) =>
    frames.reduce((cut, frame) => splitAt(cut, frame, interpolationOf(scene, refs[axis]!.name)), {
      ...channel!,
      muted: undefined,
    } as Channel),
  );
  const points = frames.map((frame, i): TrackPoint => {
    const keys = full.map((channel) => keyAt(channel, frame) as Key);
    const after = full.map((channel) => keyAt(channel, frames[i + 1] ?? frame) as Key);
    const reach = keys.map((key, axis) => Math.abs(after[axis]!.value - key.value));
    const leading = keys[reach.indexOf(Math.max(...reach))]!;
    const at: Place = [keys[0]!.value, keys[1]!.value, keys[2]!.value];
    return { kind: 'key', frame, at, smooth: true, ease: leading.ease };
  });
  const emptied = refs.reduce((changed, ref, axis) => {
    const value = owner.on === 'camera' ? channelAt(scene, ref)!.value : 0;
    const { before: _before, after: _after, ...channel } = channels[axis]!;
    return withChannel(changed, ref, { ...channel, value, keys: [] });
  }, scene);
  // What all that are keyed do beyond their keys, the track does.
  const [first, ...others] = channels.filter((channel) => channel!.keys.length > 1);
  const alike = (side: 'before' | 'after') => others.every((other) => other![side] === first?.[side]);
  const { before, after } = first ?? {};
  return withTrack(emptied, trackRefOf(owner), {
    points,
    ...beyondOf({ before: alike('before') ? before : undefined, after: alike('after') ? after : undefined }),
  });
}

/** Share of the tolerance for each of the three axes, so that together they keep it. */
const EACH_AXIS = 1 / Math.sqrt(3);

/**
 * Turns a track back into three channels of few keys that stay within `toleranceSpx` of its places on every frame.
 * Null where there is none.
 */
export function bakeTrack(scene: Scene, owner: PathOwner, toleranceSpx = 0.1): Scene | null {
  const track = trackOf(scene, trackRefOf(owner));
  const keys = track && trackKeys(track);
  const [first, last] = [keys?.[0], keys?.at(-1)];
  if (!track || !first || !last) return null;
  const count = last.frame - first.frame + 1;
  const places = Array.from({ length: count }, (_, i) => trackPlaceAt(track, first.frame + i));
  const without = withTrack(scene, trackRefOf(owner), null);
  return pathRefsOf(owner).reduce((changed, ref, axis) => {
    const channel = channelAt(changed, ref)!;
    const values = places.map((place) => place[axis] as number);
    const baked = reduceToKeys(
      values,
      first.frame,
      toleranceSpx * EACH_AXIS,
      interpolationOf(scene, ref.name),
    );
    return withChannel(changed, ref, { ...channel, keys: baked, ...beyondOf(track) });
  }, without);
}

/** Edits the track of the camera or of a plane; a locked one stays. */
export function editTrack(scene: Scene, owner: PathOwner, change: (track: Track) => Track): Scene {
  const ref = trackRefOf(owner);
  const track = trackOf(scene, ref);
  return track && !track.locked ? withTrack(scene, ref, change(track)) : scene;
}
