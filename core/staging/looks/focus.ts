import type { Scene } from '../../scene/index.ts';
import { channelOf, planeOf } from '../../scene/records/index.ts';
import { type Channel, channelValueAt } from '../../timing/index.ts';
import { standingAt } from '../standings.ts';

/** Depth that is sharp at `frame`: between keys that follow planes from where one is now to where the other is. */
export const focusDepthAt = (scene: Scene, frame: number): number =>
  channelValueAt(focusChannelAt(scene, frame), frame, 'linear');

/** The channel of the focus with the depths that the planes which it follows have at `frame`. */
export function focusChannelAt(scene: Scene, frame: number): Channel {
  const channel = channelOf(scene.camera.focus);
  if (!channel.follows && !channel.keys.some((key) => key.follows)) return channel;
  const depth = ({ value, follows }: { readonly value: number; readonly follows?: string | undefined }) =>
    depthOf(scene, follows, frame) ?? value;
  return {
    ...channel,
    value: depth(channel),
    keys: channel.keys.map((key) => ({ ...key, value: depth(key) })),
  };
}

/** Where a plane on the stage is; null for one that is gone or rides on the camera, which nothing can be focused on. */
export function depthOf(scene: Scene, id: string | undefined, frame: number): number | null {
  const plane = planeOf(scene, id);
  const standing = plane && standingAt(scene, plane, frame);
  return standing?.root === 'stage' ? standing.depthSpx : null;
}
