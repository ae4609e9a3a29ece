import { expect } from 'vitest';
import type { KeySelection } from '../edits/keys/keys.ts';
import { setChannelValue } from '../edits/keys/set-values.ts';
import type { Scene } from '../scene/index.ts';
import { type ChannelRef, channelAt, channelId, keyedChannels, shownValueAt } from '../staging/index.ts';
import { testPlane, testPlaneId, testScene } from './index.ts';

export const [NEAR, FAR] = ['near', 'far'].map(testPlaneId) as [
  ReturnType<typeof testPlaneId>,
  ReturnType<typeof testPlaneId>,
];
export const still = testScene([
  testPlane({ id: NEAR, depthSpx: -300 }),
  testPlane({ id: FAR, depthSpx: 1500 }),
]);
export const camera = (name: 'panX' | 'panY' | 'truck' | 'zoom' | 'roll' | 'track'): ChannelRef => ({
  on: 'camera',
  name,
});
export const plane = (
  name: 'x' | 'y' | 'depth' | 'scale' | 'rotation' | 'opacity' | 'track' | 'runX',
  id = NEAR,
): ChannelRef => ({
  on: 'plane',
  plane: id,
  name,
});
export const key = (scene: Scene, ref: ChannelRef, ...keys: readonly (readonly [number, number])[]): Scene =>
  keys.reduce((s, [frame, value]) => setChannelValue(s, ref, value, { frame, keying: true }), scene);
export const all = (scene: Scene, ...refs: readonly ChannelRef[]): KeySelection =>
  new Map(
    (refs.length > 0 ? refs : keyedChannels(scene)).map((ref) => [
      channelId(ref),
      new Set(channelAt(scene, ref)!.keys.map((k) => k.frame)),
    ]),
  );

export const moving = [
  [camera('panX'), [1, 0], [60, 400], [110, 300]],
  [camera('truck'), [20, 0], [100, 500]],
  [camera('zoom'), [1, 1], [90, 2.5]],
  [plane('x'), [5, 0], [80, 220]],
  [plane('scale'), [5, 1], [80, 1.8]],
  [plane('rotation', FAR), [30, 0], [60, 12]],
].reduce((scene, [ref, ...keys]) => key(scene, ref as ChannelRef, ...(keys as [number, number][])), still);
export const FRAMES = Array.from({ length: 120 }, (_, i) => i + 1);
export const closeScenes = (a: Scene, b: Scene, frameOf: (f: number) => number, frames = FRAMES) => {
  for (const f of frames)
    for (const ref of keyedChannels(a))
      expect(shownValueAt(b, ref, frameOf(f))).toBeCloseTo(shownValueAt(a, ref, f), 6);
};
