import { parentPort, workerData } from 'node:worker_threads';
import { raster } from '@keen-ridge/core/image';
import { LevelsFiles } from '../storage/levels-file.ts';
import type { FromLevelsWorker, ToLevelsWorker } from './levels-helper.ts';

const { levelsFolder } = workerData as { levelsFolder: string };
const files = new LevelsFiles(levelsFolder);
const say = (message: FromLevelsWorker) => parentPort?.postMessage(message);

parentPort?.on('message', ({ artId, widthPx, heightPx, pixels }: ToLevelsWorker) => {
  files.write(artId, raster(widthPx, heightPx, 'straight', pixels)).then(
    () => say({ fault: null }),
    (error: unknown) => say({ fault: error instanceof Error ? error.message : String(error) }),
  );
});
