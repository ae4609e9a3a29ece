import type { Scene } from '../../scene/index.ts';
import { channelOf, recordOf, withEachPlane } from '../../scene/records/index.ts';
import { cameraPoseAt, isMoving } from '../../staging/index.ts';
import { focusDepthAt } from '../../staging/looks/index.ts';
import { channelValueAt } from '../../timing/index.ts';

/**
 * The set-up without its move: the camera rests as it stands at frame 1, planes stand as they do on the Stage, and what
 * runs by itself goes on running. For a shot that shares the stage of another and moves otherwise.
 */
export function withoutMove(scene: Scene): Scene {
  const pose = cameraPoseAt({ ...scene, move: { ...scene.move, sway: null } }, 1);
  const seen: Readonly<Record<string, number>> = {
    panX: pose.xSpx,
    panY: pose.ySpx,
    truck: pose.zSpx + scene.homeDistanceSpx,
    zoom: pose.zoom,
    roll: pose.rollDeg,
    focus: focusDepthAt(scene, 1),
  };
  const camera = Object.fromEntries(
    Object.entries(scene.camera).map(([name, record]) => {
      const channel = channelOf(record);
      const { follows } = channel.keys[0] ?? channel;
      return [
        name,
        recordOf({ value: seen[name] ?? channelValueAt(channel, 1, 'linear'), follows, keys: [] }),
      ];
    }),
  ) as Scene['camera'];
  const still = withEachPlane(scene, (plane) =>
    isMoving(plane) ? { ...plane, moves: {}, track: null } : plane,
  );
  return { ...still, camera, move: { ...scene.move, track: null, keepSize: null, sway: null } };
}
