import { IDENTITY } from '@keen-ridge/core/geometry';
import type { Scene } from '@keen-ridge/core/scene';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { afterAll, expect, it, vi } from 'vitest';
import { PictureRenderer, type PictureRequest } from './renderer.ts';

/** Renders that were begun, each ended by its own call. */
const begun: (() => void)[] = [];
/** Images that are being opened, each by its own call. */
const opening: (() => void)[] = [];
const pool = {
  size: 1,
  has: () => false,
  openStream: () => new Promise<void>((resolve) => opening.push(resolve)),
  prepare: (layers: unknown) => ({ layers, complete: opening.length === 0 }),
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

const canvasWith = (dataset: Record<string, string>): HTMLCanvasElement =>
  ({
    dataset,
    width: 0,
    height: 0,
    getContext: () => ({ putImageData: () => {} }),
  }) as unknown as HTMLCanvasElement;
const asked = (scene: Scene, frame: number): PictureRequest => ({
  scene,
  frame,
  widthPx: 16,
  heightPx: 9,
  frameToImage: IDENTITY,
  grey: 128,
  exact: true,
});

it('a picture that comes late does not cover a newer one that was rendered ahead', async () => {
  const dataset: Record<string, string> = {};
  const scene = testScene([]);
  let cached: ReadonlySet<number> = new Set();
  const renderer = new PictureRenderer(canvasWith(dataset), {
    onState: () => {},
    onCached: (frames) => {
      cached = frames;
    },
  });
  const rendered = async (frame: number) => {
    renderer.request(asked(scene, frame));
    await vi.waitFor(() => expect(begun).toHaveLength(1));
  };
  await renderer.load(scene);
  await rendered(2);
  begun.shift()?.();
  await vi.waitFor(() => expect([...cached]).toEqual([2]));
  await rendered(1);
  renderer.request(asked(scene, 2));
  expect(dataset.frame).toBe('2');
  begun.shift()?.();
  await vi.waitFor(() => expect([...cached].sort()).toEqual([1, 2]));
  expect(dataset).toMatchObject({ frame: '2', resting: 'true' });
  renderer.close();
});

it('a picture that was begun before its art had come is not the whole one', async () => {
  const dataset: Record<string, string> = {};
  const scene = testScene([testPlane({ id: testPlaneId('sky') })]);
  const renderer = new PictureRenderer(canvasWith(dataset), { onState: () => {} });
  const loaded = renderer.load(scene);
  renderer.request(asked(scene, 1));
  await vi.waitFor(() => expect([begun.length, opening.length]).toEqual([1, 1]));
  opening.shift()?.();
  await loaded;
  begun.shift()?.();
  await vi.waitFor(() => expect(begun).toHaveLength(1));
  expect(dataset.art).toBe('loading');
  begun.shift()?.();
  await vi.waitFor(() => expect(dataset.art).toBe('ready'));
  renderer.close();
});
