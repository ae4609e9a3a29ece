import type { Scene } from '@keen-ridge/core/document';
import type { ShotSample } from '@keen-ridge/core/shot';
import { useEffect, useRef, useState } from 'react';
import type { FromSampleWorker, ToSampleWorker } from './sample-worker.ts';
import SampleWorker from './sample-worker.ts?worker';

/** The shot sampled in a worker: the newest that has come. Only the newest scene is asked for; older ones are passed over. */
export function useSample(scene: Scene): ShotSample | null {
  const [sample, setSample] = useState<ShotSample | null>(null);
  const worker = useRef<Worker | null>(null);
  const state = useRef<{ busy: boolean; next: Scene | null }>({ busy: false, next: null });
  useEffect(() => {
    const made = new SampleWorker();
    const under = { busy: false, next: null };
    worker.current = made;
    state.current = under;
    made.onmessage = ({ data }: MessageEvent<FromSampleWorker>) => {
      setSample(data.sample);
      const { next } = state.current;
      state.current = { busy: next !== null, next: null };
      if (next) made.postMessage({ scene: next } satisfies ToSampleWorker);
    };
    return () => made.terminate();
  }, []);
  useEffect(() => {
    if (state.current.busy) {
      state.current.next = scene;
      return;
    }
    state.current.busy = true;
    worker.current?.postMessage({ scene } satisfies ToSampleWorker);
  }, [scene]);
  return sample;
}
