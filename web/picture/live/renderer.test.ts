import { IDENTITY } from '@keen-ridge/core/geometry';
import { testScene } from '@keen-ridge/core/testing';
import { afterAll, expect, it, vi } from 'vitest';
import { PictureRenderer, type PictureRequest } from './renderer.ts';

/** Renders that were begun, each ended by its own call. */
const begun: (() => void)[] = [];
const pool = {
  size: 1,
  prepare: (layers: unknown) => ({ layers, complete: true }),
  render: () => new Promise<void>((resolve) => begun.push(resolve)),
};
vi.mock('./browser-pool.ts', () => ({ sharedPool: { take: async () => pool, giveBack: () => {} } }));

class Pixels {
  readonly data: Uint8ClampedArray;
  readonly width: number;
  readonly height: number;
  constructor(width: number, height: number) {
    [this.width, this.height] = [width, height];
    this.data = new Uint8ClampedArray(width * height * 4);
  }
}
vi.stubGlobal('ImageData', Pixels);
afterAll(() => vi.unstubAllGlobals());

it('a picture that comes late does not cover a newer one that was rendered ahead', async () => {
  const dataset: Record<string, string> = {};
  const canvas = { dataset, width: 0, height: 0, getContext: () => ({ putImageData: () => {} }) };
  const scene = testScene([]);
  const asked = (frame: number): PictureRequest => ({
    scene,
    frame,
    widthPx: 16,
    heightPx: 9,
    frameToImage: IDENTITY,
    grey: 128,
    exact: true,
  });
  let cached: ReadonlySet<number> = new Set();
  const renderer = new PictureRenderer(canvas as unknown as HTMLCanvasElement, {
    onState: () => {},
    onCached: (frames) => {
      cached = frames;
    },
  });
  const rendered = async (frame: number) => {
    renderer.request(asked(frame));
    await vi.waitFor(() => expect(begun).toHaveLength(1));
  };
  await renderer.load(scene);
  await rendered(2);
  begun.shift()?.();
  await vi.waitFor(() => expect([...cached]).toEqual([2]));
  await rendered(1);
  renderer.request(asked(2));
  expect(dataset.frame).toBe('2');
  begun.shift()?.();
  await vi.waitFor(() => expect([...cached].sort()).toEqual([1, 2]));
  expect(dataset).toMatchObject({ frame: '2', resting: 'true' });
  renderer.close();
});
