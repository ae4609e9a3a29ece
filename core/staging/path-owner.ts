import type { PlaneId, Scene } from '../scene/index.ts';
import { channelValueAt } from '../timing/index.ts';
import { type Place, trackPlaceAt } from '../timing/moves/index.ts';
import { type ChannelRef, channelAt, interpolationOf, trackOf } from './channels.ts';

/** Whose path it is: that of the camera or of a plane. */
export type PathOwner = { readonly on: 'camera' } | { readonly on: 'plane'; readonly plane: PlaneId };

export const trackRefOf = (owner: PathOwner): ChannelRef =>
  owner.on === 'camera' ? { on: 'camera', name: 'track' } : { ...owner, name: 'track' };

/** The three channels that a track stands for, in the order of its coordinates. */
export const pathRefsOf = (owner: PathOwner): readonly ChannelRef[] =>
  owner.on === 'camera'
    ? (['panX', 'panY', 'truck'] as const).map((name) => ({ on: 'camera', name }))
    : (['x', 'y', 'depth'] as const).map((name) => ({ ...owner, name }));

/** Where the owner of a path is at `frame`, in the coordinates of a track: a plane counts from how it stands. */
export function pathPlaceAt(scene: Scene, owner: PathOwner, frame: number): Place {
  const track = trackOf(scene, trackRefOf(owner));
  if (track && !track.muted) return trackPlaceAt(track, frame);
  const [x, y, z] = pathRefsOf(owner).map((ref) => {
    const channel = channelAt(scene, ref);
    return channel ? channelValueAt(channel, frame, interpolationOf(scene, ref.name)) : 0;
  });
  return [x!, y!, z!];
}
