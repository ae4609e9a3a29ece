import type { Scene } from '../../scene/index.ts';
import { distanceSpx, focalPx, nearLimitSpx } from '../../stage/index.ts';
import type { Channel } from '../../timing/index.ts';
import { trackByLength } from '../../timing/moves/index.ts';
import { type ChannelRef, cameraPoseAt, channelAt, stageFrameOf, trackOf } from '../index.ts';

/** The channel by whose values its speed is told: `channelAt`, of a track how far along its path it is, spx. */
export function pacedChannelAt(scene: Scene, ref: ChannelRef): Channel | null {
  if (ref.name !== 'track') return channelAt(scene, ref);
  const track = trackOf(scene, ref);
  return track && trackByLength(track);
}

/**
 * How far the spot of the datum in the middle of the frame goes from each frame to the next, output px; 0 on the last, and
 * NaN where the camera has passed the datum.
 */
export function datumSlides(scene: Scene): number[] {
  const stage = stageFrameOf(scene);
  const poses = Array.from({ length: scene.lengthFrames }, (_, i) => cameraPoseAt(scene, i + 1));
  return poses.map((pose, i) => {
    const next = poses[i + 1] ?? pose;
    const distance = distanceSpx(next, 0);
    if (Math.min(distance, distanceSpx(pose, 0)) <= nearLimitSpx(stage)) return Number.NaN;
    return (Math.hypot(next.xSpx - pose.xSpx, next.ySpx - pose.ySpx) * focalPx(stage, next)) / distance;
  });
}
