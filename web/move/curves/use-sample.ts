import { SceneFeed } from '@keen-ridge/core/history';
import type { Scene } from '@keen-ridge/core/scene';
import type { ShotSample } from '@keen-ridge/core/staging/sample';
import { useEffect, useRef, useState } from 'react';
import type { FromSampleWorker, ToSampleWorker } from './sample-worker.ts';
import SampleWorker from './sample-worker.ts?worker';

/** The shot sampled in a worker: the newest that has come. Only the newest scene is asked for; older ones are passed over. */
export function useSample(scene: Scene): ShotSample | null {
  const [sample, setSample] = useState<ShotSample | null>(null);
  const sender = useRef<((scene: Scene) => void) | null>(null);
  const state = useRef<{ busy: boolean; next: Scene | null }>({ busy: false, next: null });
  useEffect(() => {
    const made = new SampleWorker();
    const under = { busy: false, next: null };
    const feed = new SceneFeed();
    const send = (next: Scene) => made.postMessage({ scene: feed.next(next) } satisfies ToSampleWorker);
    sender.current = send;
    state.current = under;
    made.onmessage = ({ data }: MessageEvent<FromSampleWorker>) => {
      setSample(data.sample);
      const { next } = state.current;
      state.current = { busy: next !== null, next: null };
      if (next) send(next);
    };
    return () => made.terminate();
  }, []);
  useEffect(() => {
    if (state.current.busy) {
      state.current.next = scene;
      return;
    }
    state.current.busy = true;
    sender.current?.(scene);
  }, [scene]);
  return sample;
}
