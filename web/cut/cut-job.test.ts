import { raster } from '@keen-ridge/core/image';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { FakeWorker } from '../testing/fake-worker.ts';
import { CutJob, CutSuperseded } from './cut-job.ts';

const { begun } = FakeWorker;
beforeEach(() => {
  begun.length = 0;
  vi.stubGlobal('Worker', FakeWorker);
});
afterEach(() => vi.unstubAllGlobals());

const image = raster(2, 1, 'straight', Uint8Array.of(1, 2, 3, 255, 4, 5, 6, 255));

it('a worker that stops by itself rejects what was asked, and the next question begins another', async () => {
  const job = new CutJob(image);
  const lost = job.mask([], 0);
  // As of a script that is not there: the event has no words.
  begun[0]!.onerror?.({});
  await expect(lost).rejects.toThrow('A part of the program could not be loaded.');
  const again = job.mask([], 0);
  expect(begun.map(({ ended }) => ended)).toEqual([true, false]);
  expect(begun[1]!.told).toMatchObject([
    { kind: 'open', widthPx: 2, heightPx: 1 },
    { kind: 'mask', id: 2 },
  ]);
  const mask = Uint8Array.of(255, 0);
  begun[1]!.onmessage?.({ data: { kind: 'mask', id: 2, mask } });
  await expect(again).resolves.toBe(mask);
  job.close();
});

it('a worker that has stopped before anything is asked is found out by the next question', async () => {
  const job = new CutJob(image);
  begun[0]!.onerror?.({});
  const asked = job.mask([], 0);
  expect(begun).toHaveLength(2);
  begun[1]!.onerror?.({ message: 'out of memory' });
  await expect(asked).rejects.toThrow('out of memory');
  job.close();
});

it('a newer question makes an older one void, and so does the end', async () => {
  const job = new CutJob(image);
  const older = job.mask([], 0);
  const newer = job.mask([], 1);
  await expect(older).rejects.toBeInstanceOf(CutSuperseded);
  job.stop();
  await expect(newer).rejects.toBeInstanceOf(CutSuperseded);
  expect(begun.map(({ ended }) => ended)).toEqual([true, false]);
  job.close();
});
