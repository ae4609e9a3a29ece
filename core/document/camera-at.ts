import type { CameraPose, StageFrame } from '../stage/index.ts';
import { channelValueAt } from '../timing/index.ts';
import { type CameraChannel, CHANNEL_KINDS } from './camera-channels.ts';
import type { Scene } from './scene.ts';

export const stageFrameOf = (scene: Scene): StageFrame => ({
  widthPx: scene.frame.widthPx,
  heightPx: scene.frame.heightPx,
  homeDistanceSpx: scene.homeDistanceSpx,
});

/** One camera channel at `frame` (may be fractional), in the channel's unit. */
export const cameraValueAt = (scene: Scene, channel: CameraChannel, frame: number): number =>
  channelValueAt(scene.camera[channel], frame, CHANNEL_KINDS[channel].interpolation);

/** The camera at `frame`. Truck counts from home, inwards positive: cz = −D + truck. */
export function cameraPoseAt(scene: Scene, frame: number): CameraPose {
  return {
    xSpx: cameraValueAt(scene, 'panX', frame),
    ySpx: cameraValueAt(scene, 'panY', frame),
    zSpx: cameraValueAt(scene, 'truck', frame) - scene.homeDistanceSpx,
    zoom: cameraValueAt(scene, 'zoom', frame),
    rollDeg: cameraValueAt(scene, 'roll', frame),
  };
}
