import { raster } from '@keen-ridge/core/image';
import { workerData } from 'piscina';
import { LevelsFiles } from '../storage/levels-file.ts';
import type { LevelsTask } from './levels-helper.ts';

const { levelsFolder } = workerData as { levelsFolder: string };
const files = new LevelsFiles(levelsFolder);

export const writeLevels = ({ artId, widthPx, heightPx, pixels }: LevelsTask): Promise<void> =>
  files.write(
    artId,
    pixels instanceof Uint16Array
      ? { widthPx, heightPx, colour: 'srgb', alpha: 'straight', data: pixels }
      : raster(widthPx, heightPx, 'straight', pixels),
  );
