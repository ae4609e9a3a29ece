import type { CameraMove, Scene } from '../../scene/index.ts';
import {
  type CameraChannel,
  cameraPoseAt,
  channelAt,
  interpolationOf,
  steadyPoseAt,
} from '../../staging/index.ts';
import { reduceToKeys } from '../../timing/index.ts';
import type { Sway } from '../../timing/moves/index.ts';
import { withChannel } from '../keys/index.ts';
import { bakeTrack } from './tracks.ts';

/** Sets how the camera moves beside its channels: sway, steps, what keeps its size. */
export const setMove = (scene: Scene, part: Partial<CameraMove>): Scene => ({
  ...scene,
  move: { ...scene.move, ...part },
});

/** What a handheld camera usually does: 1 to 2 Hz, about 1 % of the frame's width (common practice, no source). */
export const usualSway = (scene: Pick<Scene, 'frame'>): Sway => ({
  on: true,
  amplitude: { panX: scene.frame.widthPx * 0.01, panY: scene.frame.widthPx * 0.006, truck: 0, roll: 0.2 },
  frequencyHz: 1.2,
  seed: 1,
  fadeInFrames: 0,
  fadeOutFrames: 0,
  loops: false,
});

/**
 * Turns the sway into keys on every channel that it moves, within `toleranceSpx` and `toleranceDeg` of it on every frame
 * of the shot, and switches it off. A track becomes channels first.
 */
export function bakeSway(scene: Scene, toleranceSpx = 0.1, toleranceDeg = 0.01): Scene {
  const { sway } = scene.move;
  if (!sway) return scene;
  const frames = Array.from({ length: scene.lengthFrames }, (_, i) => i + 1);
  // The zoom that keeps a size goes on doing so by itself.
  const free = { ...scene, move: { ...scene.move, keepSize: null } };
  const poses = frames.map((frame) => cameraPoseAt(free, frame));
  const still = frames.map((frame) => steadyPoseAt(free, frame));
  const values: Partial<Record<CameraChannel, number[]>> = {
    panX: poses.map((pose) => pose.xSpx),
    panY: poses.map((pose) => pose.ySpx),
    truck: poses.map((pose) => pose.zSpx + scene.homeDistanceSpx),
    roll: poses.map((pose) => pose.rollDeg),
  };
  const rests: Partial<Record<CameraChannel, number[]>> = {
    panX: still.map((pose) => pose.xSpx),
    panY: still.map((pose) => pose.ySpx),
    truck: still.map((pose) => pose.zSpx + scene.homeDistanceSpx),
    roll: still.map((pose) => pose.rollDeg),
  };
  const straight = bakeTrack(scene, { on: 'camera' }, toleranceSpx / 2) ?? scene;
  const off = setMove(straight, { sway: { ...sway, on: false } });
  return (['panX', 'panY', 'truck', 'roll'] as const).reduce((changed, name) => {
    const moved = values[name]!;
    if (moved.every((value, i) => value === rests[name]![i])) return changed;
    const ref = { on: 'camera', name } as const;
    const tolerance = name === 'roll' ? toleranceDeg : toleranceSpx;
    const keys = reduceToKeys(moved, 1, tolerance, interpolationOf(scene, name));
    return withChannel(changed, ref, { ...channelAt(changed, ref)!, keys });
  }, off);
}
