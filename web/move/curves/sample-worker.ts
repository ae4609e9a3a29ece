import type { Scene } from '@keen-ridge/core/document';
import { type ShotSample, sampleShot } from '@keen-ridge/core/shot';

export interface ToSampleWorker {
  readonly scene: Scene;
}
export interface FromSampleWorker {
  readonly sample: ShotSample;
}

self.onmessage = ({ data }: MessageEvent<ToSampleWorker>) => {
  const sample = sampleShot(data.scene);
  if (sample)
    self.postMessage({ sample } satisfies FromSampleWorker, {
      transfer: [sample.camera.buffer as ArrayBuffer, sample.planes.buffer as ArrayBuffer],
    });
};
