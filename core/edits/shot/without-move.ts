import type { Scene } from '../../scene/index.ts';
import { channelOf, recordOf, withEachPlane } from '../../scene/records/index.ts';
import { cameraPoseAt } from '../../staging/index.ts';

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
  };
  const camera = Object.fromEntries(
    Object.entries(scene.camera).map(([name, record]) => {
      const { value, keys } = channelOf(record);
      const rest = seen[name] ?? keys[0]?.value ?? value;
      return [name, recordOf({ value: rest, keys: [] })];
    }),
  ) as Scene['camera'];
  const still = withEachPlane(scene, (plane) =>
    Object.keys(plane.moves).length === 0 ? plane : { ...plane, moves: {} },
  );
  return { ...still, camera, move: { ...scene.move, track: null, keepSize: null, sway: null } };
}
