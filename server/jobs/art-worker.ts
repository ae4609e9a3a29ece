import { parentPort, workerData } from 'node:worker_threads';
import { type ArtTask, runArtTask } from '../art/art-tasks.ts';
import type { ImageSink } from '../art/keep-image.ts';
import { LevelsFiles } from '../storage/levels-file.ts';
import type { FromArtWorker } from './art-thread.ts';
import { LevelsHelper } from './levels-helper.ts';

const { levelsFolder } = workerData as { levelsFolder: string };
const files = new LevelsFiles(levelsFolder);
const helper = new LevelsHelper(levelsFolder);
const say = (message: FromArtWorker) => parentPort?.postMessage(message);
const sink: ImageSink = {
  keep: async (image, png) => say({ kind: 'image', image, png }),
  pixels: (artId, image) => (helper.isFree ? helper.write(artId, image) : files.write(artId, image)),
};

parentPort?.on('message', (task: ArtTask) => {
  const onProgress = (done: number, total: number, what: string) =>
    say({ kind: 'progress', done, total, what });
  runArtTask(task, { sink, onProgress }).then(
    (result) => say({ kind: 'done', result }),
    (error: unknown) =>
      say({ kind: 'failed', message: error instanceof Error ? error.message : String(error) }),
  );
});
