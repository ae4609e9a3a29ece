import { LIMITS, type PlaneId, type Scene } from '../../scene/index.ts';
import { planeOf } from '../../scene/records/index.ts';
import {
  CAMERA_CHANNELS,
  CHANNEL_KINDS,
  type ChannelId,
  type ChannelName,
  type ChannelRef,
  channelAt,
  channelId,
  channelRef,
  interpolationOf,
  mayOvershoot,
  shownScale,
  trackOf,
} from '../../staging/index.ts';
import {
  type Beyond,
  type Channel,
  channelValueAt,
  deleteKeys,
  type Ease,
  type Key,
  layKeys,
  moveKeys,
  overshoots,
  restAt,
  reverseKeys,
  rollKey,
  setEase,
  smoothKeys,
  splitAt,
  stretchKeys,
  withoutOvershoot,
} from '../../timing/index.ts';
import { putTrackKey, smoothTrackKeys } from '../../timing/moves/index.ts';
import { extentOf } from '../../units/index.ts';
import { isChannelLocked, setChannelValue } from './set-values.ts';
import { withChannel, withTrack } from './with-channel.ts';

/** Chosen keys of several channels, by frame. */
export type KeySelection = ReadonlyMap<ChannelId, ReadonlySet<number>>;

type ChannelEdit = (channel: Channel, frames: ReadonlySet<number>, ref: ChannelRef) => Channel;

function overSelection(scene: Scene, keys: KeySelection, edit: ChannelEdit): Scene {
  return [...keys].reduce((changed, [id, frames]) => {
    const ref = channelRef(id);
    const channel = channelAt(changed, ref);
    return channel && !isChannelLocked(changed, ref)
      ? withChannel(changed, ref, edit(channel, frames, ref))
      : changed;
  }, scene);
}

/** First and last frame of the chosen keys. */
export const boundsOf = (keys: KeySelection): readonly [number, number] =>
  extentOf([...keys.values()].flatMap((frames) => [...frames]));

/** So many frames, or as many of them as the chosen keys can go by and still lie where keys may lie. */
function withinRoom(keys: KeySelection, byFrames: number): number {
  const [first, last] = boundsOf(keys);
  const { min, max } = LIMITS.keyFrame;
  return Math.max(min - first, Math.min(max - last, byFrames));
}

/** Moves keys by whole frames, all alike, as far as keys may go; the moved ones win. */
export function moveSelected(scene: Scene, keys: KeySelection, byFrames: number): Scene {
  const by = withinRoom(keys, byFrames);
  return overSelection(scene, keys, (channel, frames) => moveKeys(channel, frames, by));
}

/** Rolls each key between its neighbours by up to so many frames. */
export function rollSelected(scene: Scene, keys: KeySelection, byFrames: number): Scene {
  const by = withinRoom(keys, byFrames);
  return overSelection(scene, keys, (channel, frames) => {
    const inTurn = [...frames].sort((p, q) => (by > 0 ? q - p : p - q));
    return inTurn.reduce((rolled, frame) => rollKey(rolled, frame, frame + by), channel);
  });
}

export const deleteSelected = (scene: Scene, keys: KeySelection): Scene =>
  overSelection(scene, keys, deleteKeys);

/** Sets the ease of the spans that leave the chosen keys; kept from overshooting where the channel cannot. */
export const easeSelected = (scene: Scene, keys: KeySelection, ease: Ease): Scene =>
  overSelection(scene, keys, (channel, frames, { name }) =>
    setEase(channel, frames, overshoots(ease) && !mayOvershoot(name) ? withoutOvershoot(ease) : ease),
  );

/** Stretches the chosen keys in time about the first of them, snapped to whole frames, as far as keys may go. */
export function stretchSelected(scene: Scene, keys: KeySelection, factor: number): Scene {
  const [first, last] = boundsOf(keys);
  const most = last > first ? (LIMITS.keyFrame.max - first) / (last - first) : factor;
  const by = Math.min(factor, most);
  return overSelection(scene, keys, (channel, frames) => stretchKeys(channel, frames, first, by));
}

/** Runs the chosen keys backwards between the first and the last of them, or between other frames. */
export const reverseSelected = (
  scene: Scene,
  keys: KeySelection,
  bounds: readonly [number, number] = boundsOf(keys),
): Scene => overSelection(scene, keys, (channel, frames) => reverseKeys(channel, frames, bounds));

/** Lets the speed run on through the chosen keys. A track is smoothed along its path. */
export const smoothSelected = (scene: Scene, keys: KeySelection): Scene =>
  overSelection(scene, keys, (channel, frames, ref) =>
    ref.name === 'track'
      ? smoothTrackKeys(trackOf(scene, ref)!, frames)
      : smoothKeys(channel, frames, interpolationOf(scene, ref.name)),
  );

/** Sets a key at `frame` that changes nothing. */
export function keyAsItIs(scene: Scene, ref: ChannelRef, frame: number): Scene {
  if (isChannelLocked(scene, ref)) return scene;
  if (ref.name === 'track') {
    const track = trackOf(scene, ref);
    return track ? withTrack(scene, ref, putTrackKey(track, frame)) : scene;
  }
  const channel = channelAt(scene, ref);
  return channel ? withChannel(scene, ref, splitAt(channel, frame, interpolationOf(scene, ref.name))) : scene;
}

/**
 * The camera truly stands still for `frames` from `frame` on: every channel of it that has keys rests. Later keys are
 * pushed on, or those within the rest are given up.
 */
export function restCamera(
  scene: Scene,
  {
    frame,
    frames,
    pushLater,
  }: { readonly frame: number; readonly frames: number; readonly pushLater: boolean },
): Scene {
  return (['track', ...CAMERA_CHANNELS] as const).reduce((changed, name) => {
    const ref: ChannelRef = { on: 'camera', name };
    const keyed = name === 'track' ? keyAsItIs(changed, ref, frame) : changed;
    const channel = channelAt(keyed, ref);
    if (!channel || channel.keys.length === 0 || isChannelLocked(keyed, ref)) return changed;
    const interpolation = name === 'track' ? 'linear' : interpolationOf(scene, name);
    return withChannel(keyed, ref, restAt(channel, frame, frames, { pushLater, interpolation }));
  }, scene);
}

/** Keys that were copied: as they are shown, with frames counted from the first of them all. */
export interface CopiedKeys {
  readonly channels: readonly {
    readonly on: ChannelRef['on'];
    readonly name: ChannelName;
    /** Of the plane, where it is one. */
    readonly plane: PlaneId | null;
    readonly keys: readonly Key[];
  }[];
}

/** Copies keys, in shown values; tracks stay where they are. */
export function copyKeys(scene: Scene, keys: KeySelection): CopiedKeys {
  const first = boundsOf(keys)[0];
  const channels = [...keys].flatMap(([id, frames]) => {
    const ref = channelRef(id);
    const channel = channelAt(scene, ref);
    if (!channel || ref.name === 'track') return [];
    const { show } = shownScale(scene, ref);
    const copied = channel.keys
      .filter((key) => frames.has(key.frame))
      .map((key) => ({ ...key, frame: key.frame - first, value: show(key.value) }));
    return [{ on: ref.on, name: ref.name, plane: ref.on === 'plane' ? ref.plane : null, keys: copied }];
  });
  return { channels };
}

/**
 * Pastes keys at a frame: into the channels that they came from; into the channels of that name of `onto` planes; or all
 * of a single channel into `into`, where the units agree. Returns what it made, so that it can be chosen; null where
 * nothing fitted.
 */
export function pasteKeys(
  scene: Scene,
  copied: CopiedKeys,
  frame: number,
  goal: { readonly into?: ChannelRef | null; readonly onto?: readonly PlaneId[] },
): { readonly scene: Scene; readonly keys: KeySelection } | null {
  const pasted = new Map<ChannelId, Set<number>>();
  const after = copied.channels.reduce((changed, { on, name, plane, keys }) => {
    const goals = goalsOf(scene, { on, name, plane, single: copied.channels.length === 1 }, goal);
    return goals.reduce((next, ref) => {
      const channel = channelAt(next, ref);
      if (!channel || isChannelLocked(next, ref)) return next;
      const { store } = shownScale(next, ref);
      const laid = keys
        .map((key) => ({ ...key, frame: key.frame + frame, value: store(key.value) }))
        .filter((key) => key.frame >= LIMITS.keyFrame.min && key.frame <= LIMITS.keyFrame.max);
      if (laid.length === 0) return next;
      pasted.set(channelId(ref), new Set(laid.map((key) => key.frame)));
      return withChannel(next, ref, layKeys(channel, laid));
    }, changed);
  }, scene);
  return pasted.size === 0 ? null : { scene: after, keys: pasted };
}

interface Source {
  readonly on: ChannelRef['on'];
  readonly name: ChannelName;
  readonly plane: PlaneId | null;
  readonly single: boolean;
}

function goalsOf(
  scene: Scene,
  { on, name, plane, single }: Source,
  { into, onto = [] }: { readonly into?: ChannelRef | null; readonly onto?: readonly PlaneId[] },
): ChannelRef[] {
  if (name === 'track') return [];
  if (single && into && into.name !== 'track') {
    return CHANNEL_KINDS[into.name].unit === CHANNEL_KINDS[name].unit ? [into] : [];
  }
  if (on === 'camera') return [{ on, name } as ChannelRef];
  const planes = onto.length > 0 ? onto : plane && planeOf(scene, plane) ? [plane] : [];
  return planes.map((id) => ({ on: 'plane', plane: id, name }) as ChannelRef);
}

/** Copies of the chosen keys `byFrames` later, or as much later as keys may lie, in the same channels. */
export function duplicateSelected(scene: Scene, keys: KeySelection, byFrames: number): Scene {
  const by = withinRoom(keys, byFrames);
  return overSelection(scene, keys, (channel, frames, ref) =>
    ref.name === 'track'
      ? channel
      : layKeys(
          channel,
          channel.keys
            .filter((key) => frames.has(key.frame))
            .map((key) => ({ ...key, frame: key.frame + by })),
        ),
  );
}

/** Takes all keys of a channel away; it stays as it is at `frame`. Nothing else is touched. */
export function clearChannel(scene: Scene, ref: ChannelRef, frame: number): Scene {
  if (isChannelLocked(scene, ref)) return scene;
  if (ref.name === 'track') return withTrack(scene, ref, null);
  const channel = channelAt(scene, ref);
  if (!channel || channel.keys.length === 0) return scene;
  const { muted: _, before: _b, after: _a, ...kept } = channel;
  const value = channelValueAt({ ...channel, muted: undefined }, frame, interpolationOf(scene, ref.name));
  return withChannel(scene, ref, { ...kept, value, keys: [] });
}

/** Mutes a channel (it rests as if it had no keys) or lets it move again. */
export const setChannelMuted = (scene: Scene, ref: ChannelRef, muted: boolean): Scene =>
  withMark(scene, ref, 'muted', muted);

/** Locks a channel against every edit, or frees it. */
export const setChannelLocked = (scene: Scene, ref: ChannelRef, locked: boolean): Scene =>
  withMark(scene, ref, 'locked', locked);

/** What a channel does before its first key or after its last; null: it rests. */
export function setChannelBeyond(
  scene: Scene,
  ref: ChannelRef,
  side: 'before' | 'after',
  beyond: Beyond | null,
): Scene {
  const channel = channelAt(scene, ref);
  if (!channel || isChannelLocked(scene, ref) || (channel[side] ?? null) === beyond) return scene;
  if (ref.name === 'track') {
    const { [side]: _, ...rest } = trackOf(scene, ref)!;
    return withTrack(scene, ref, beyond ? { ...rest, [side]: beyond } : rest);
  }
  const { [side]: _, ...rest } = channel;
  return withChannel(scene, ref, beyond ? { ...rest, [side]: beyond } : rest);
}

function withMark(scene: Scene, ref: ChannelRef, mark: 'muted' | 'locked', on: boolean): Scene {
  if (ref.name === 'track') {
    const track = trackOf(scene, ref);
    if (!track) return scene;
    const { [mark]: _, ...rest } = track;
    return withTrack(scene, ref, on ? { ...rest, [mark]: true } : rest);
  }
  const channel = channelAt(scene, ref);
  if (!channel) return scene;
  const { [mark]: _, ...rest } = channel;
  return withChannel(scene, ref, on ? { ...rest, [mark]: true } : rest);
}

/** Gives the chosen keys one value, as it is shown. */
export const setSelectedValue = (scene: Scene, keys: KeySelection, shown: number): Scene =>
  [...keys].reduce(
    (changed, [id, frames]) =>
      [...frames].reduce(
        (next, frame) => setChannelValue(next, channelRef(id), shown, { frame, keying: true }),
        changed,
      ),
    scene,
  );
