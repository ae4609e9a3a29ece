import { SceneFeed } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import type { ShotSample } from '@keen-ridge/core/staging/sample';
import { useEffect, useRef, useState } from 'react';
import type { FromSampleWorker, ToSampleWorker } from './sample-worker.ts';
import SampleWorker from './sample-worker.ts?worker';

/** Where its worker stops by itself, another is begun so much later, ms. */
const RETRY_MS = 2000;

/** The shot sampled in a worker: the newest that has come. Only the newest scene is asked for; older ones are passed over. */
export function useSample(scene: Scene): ShotSample | null {
  const [sample, setSample] = useState<ShotSample | null>(null);
  const [losses, setLosses] = useState(0);
  const sender = useRef<((scene: Scene) => void) | null>(null);
  const state = useRef<{ busy: boolean; next: Scene | null }>({ busy: false, next: null });
  // biome-ignore lint/correctness/useExhaustiveDependencies: each loss begins another
  useEffect(() => {
    const made = new SampleWorker();
    let retry: ReturnType<typeof setTimeout> | undefined;
    const feed = new SceneFeed();
    const send = (next: Scene) => made.postMessage({ scene: feed.next(next) } satisfies ToSampleWorker);
    sender.current = send;
    state.current = { busy: false, next: null };
    made.onmessage = ({ data }: MessageEvent<FromSampleWorker>) => {
      setSample(data.sample);
      const { next } = state.current;
      state.current = { busy: next !== null, next: null };
      if (next) send(next);
    };
    made.onerror = () => {
      clearTimeout(retry);
      retry = setTimeout(() => setLosses((count) => count + 1), RETRY_MS);
    };
    return () => {
      clearTimeout(retry);
      made.terminate();
    };
  }, [losses]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a worker that was begun anew knows nothing yet
  useEffect(() => {
    if (state.current.busy) {
      state.current.next = scene;
      return;
    }
    state.current.busy = true;
    sender.current?.(scene);
  }, [scene, losses]);
  return sample;
}
