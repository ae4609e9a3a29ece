import { describe, expect, it } from 'vitest';
import { FrameCache } from './frame-cache.ts';

/** As much of an ImageData as the cache looks at. */
const image = (bytes: number) =>
  ({ data: new Uint8ClampedArray(bytes), width: 1, height: bytes / 4 }) as unknown as ImageData;

describe('frames rendered ahead', () => {
  it('are kept up to their bytes; those asked for longest ago go first', () => {
    const told: number[][] = [];
    const cache = new FrameCache(100, (frames) => told.push([...frames]));
    cache.use(['scene', 1]);
    cache.put(1, image(40));
    cache.put(2, image(40));
    expect(cache.hasRoomFor(1, 5)).toBe(true);
    expect(cache.hasRoomFor(1, 10)).toBe(false);
    cache.get(1);
    cache.put(3, image(40));
    expect([1, 2, 3].map((frame) => cache.has(frame))).toEqual([true, false, true]);
    cache.put(3, image(60));
    expect([1, 3].map((frame) => cache.has(frame))).toEqual([true, true]);
    expect(told.at(-1)).toEqual([1, 3]);
    cache.put(9, image(400));
    expect([1, 3, 9].map((frame) => cache.has(frame))).toEqual([false, false, true]);
  });

  it('are forgotten with the set-up or the view that they show', () => {
    const cache = new FrameCache(100, () => undefined);
    const scene = {};
    cache.use([scene, 2]);
    cache.put(1, image(8));
    cache.use([scene, 2]);
    expect(cache.has(1)).toBe(true);
    cache.use([{}, 2]);
    expect(cache.get(1)).toBeUndefined();
  });
});
