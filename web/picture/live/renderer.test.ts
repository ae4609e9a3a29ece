import { IDENTITY } from '@keen-ridge/core/geometry';
import type { Scene } from '@keen-ridge/core/scene';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { afterAll, afterEach, expect, it, vi } from 'vitest';
import { ServerUnreachable } from '../../api/client.ts';
import { PictureRenderer, type PictureRequest, type PictureState } from './renderer.ts';

/** Renders that were begun, each ended by its own call. */
const begun: (() => void)[] = [];
/** Images that are being opened, each by its own call. */
const opening: (() => void)[] = [];
/** Parts of images that cannot be fetched at the moment. */
let away: Error | null = null;
const pool = {
  size: 1,
  has: () => false,
  openStream: () => new Promise<void>((resolve) => opening.push(resolve)),
  prepare: (layers: unknown, _view: unknown, { onFault }: { onFault: (error: unknown) => void }) => {
    const fault = away;
    if (fault) queueMicrotask(() => onFault(fault));
    return { layers, complete: opening.length === 0 && !fault };
  },
  render: () => new Promise<void>((resolve) => begun.push(resolve)),
};
/** Why it cannot be opened. */
let shut: ServerUnreachable | null = null;
const open = async () => {
  if (shut) throw shut;
  return pool;
};
vi.mock('./browser-pool.ts', () => ({
  sharedPool: { take: () => open(), again: () => open(), giveBack: () => {} },
}));

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
afterEach(() => {
  vi.useRealTimers();
  [away, shut] = [null, null];
  begun.length = 0;
});

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

it('what cannot be had is asked for again, and said until there is a whole picture', async () => {
  vi.useFakeTimers();
  const dataset: Record<string, string> = {};
  const states: PictureState[] = [];
  const scene = testScene([]);
  const renderer = new PictureRenderer(canvasWith(dataset), { onState: (state) => states.push(state) });
  const rest = async (ms: number) => {
    await vi.advanceTimersByTimeAsync(ms);
    begun.shift()?.();
    await vi.advanceTimersByTimeAsync(0);
  };
  away = new ServerUnreachable('The server is away.');
  await renderer.load(scene);
  renderer.request(asked(scene, 1));
  await rest(200);
  expect(states.at(-1)).toEqual({ kind: 'failed', reason: 'The server is away. Trying again …' });
  // Still away the next time: nothing else is said meanwhile.
  const before = states.length;
  await rest(2500);
  expect(new Set(states.slice(before).map(({ kind }) => kind))).toEqual(new Set(['failed']));
  expect(dataset.art).toBe('loading');
  away = null;
  await rest(2500);
  expect(states.at(-1)).toEqual({ kind: 'ready' });
  expect(dataset.art).toBe('ready');
  renderer.close();
});

it('a pool that cannot be opened is opened when it can be', async () => {
  vi.useFakeTimers();
  const dataset: Record<string, string> = {};
  const states: PictureState[] = [];
  const scene = testScene([]);
  shut = new ServerUnreachable('The server is away.');
  const renderer = new PictureRenderer(canvasWith(dataset), { onState: (state) => states.push(state) });
  void renderer.load(scene);
  renderer.request(asked(scene, 1));
  await vi.advanceTimersByTimeAsync(1000);
  expect(states.at(-1)).toEqual({ kind: 'failed', reason: 'The server is away. Trying again …' });
  expect(begun).toHaveLength(0);
  shut = null;
  await vi.advanceTimersByTimeAsync(1500);
  expect(begun).toHaveLength(1);
  begun.shift()?.();
  await vi.advanceTimersByTimeAsync(0);
  expect(dataset.art).toBe('ready');
  expect(states.at(-1)).toEqual({ kind: 'ready' });
  renderer.close();
});

it('a fault that stays does not call off the asking for what was away before it', async () => {
  vi.useFakeTimers();
  const dataset: Record<string, string> = {};
  const scene = testScene([]);
  const renderer = new PictureRenderer(canvasWith(dataset), { onState: () => {} });
  const pass = async (ms: number) => {
    for (let at = 0; at < ms; at += 50) {
      await vi.advanceTimersByTimeAsync(50);
      while (begun.length > 0) begun.shift()?.();
    }
  };
  await renderer.load(scene);
  away = new ServerUnreachable('The server is away.');
  renderer.request(asked(scene, 1));
  await pass(500);
  away = new Error('It is gone.');
  renderer.request(asked(scene, 2));
  await pass(500);
  expect(dataset.art).toBe('loading');
  away = null;
  await pass(2000);
  expect(dataset.art).toBe('ready');
  renderer.close();
});
