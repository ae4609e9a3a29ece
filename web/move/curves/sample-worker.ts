import { type SceneMessage, SceneMirror } from '@keen-ridge/core/history';
import { type ShotSample, sampleShot } from '@keen-ridge/core/staging/sample';

export interface ToSampleWorker {
  readonly scene: SceneMessage;
}
export interface FromSampleWorker {
  readonly sample: ShotSample;
}

const mirror = new SceneMirror();

self.onmessage = ({ data }: MessageEvent<ToSampleWorker>) => {
  const sample = sampleShot(mirror.take(data.scene));
  if (sample)
    self.postMessage({ sample } satisfies FromSampleWorker, {
      transfer: [sample.camera.buffer as ArrayBuffer, sample.planes.buffer as ArrayBuffer],
    });
};
