// @vitest-environment happy-dom
import { testScene } from '@keen-ridge/core/testing';
import { act, renderHook } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { FakeWorker } from '../../testing/fake-worker.ts';
import { useSample } from './use-sample.ts';

const { begun } = FakeWorker;
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

it('a worker that stops by itself is begun again, with the scene as it is', () => {
  vi.useFakeTimers();
  vi.stubGlobal('Worker', FakeWorker);
  const scene = testScene([]);
  const { result, unmount } = renderHook(() => useSample(scene));
  expect(begun.map(({ told }) => told.length)).toEqual([1]);
  begun[0]!.onerror?.({});
  act(() => {
    vi.advanceTimersByTime(2500);
  });
  expect(begun.map(({ ended, told }) => [ended, told.length])).toEqual([
    [true, 1],
    [false, 1],
  ]);
  const sample = {};
  act(() => begun[1]!.onmessage?.({ data: { sample } }));
  expect(result.current).toBe(sample);
  unmount();
  expect(begun.map(({ ended }) => ended)).toEqual([true, true]);
});
