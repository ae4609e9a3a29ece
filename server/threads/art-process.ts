import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { reasonOf } from '@keen-ridge/core/units';
import { runArtTask } from '../art/art-tasks.ts';
import { type ImageSink, stagedPng } from '../art/keep-image.ts';
import { LevelsFiles } from '../storage/levels-file.ts';
import { dropDeadParts } from '../storage/levels-parts.ts';
import type { FromArtProcess, ToArtProcess } from './art-processes.ts';
import { LevelsHelper } from './levels-helper.ts';

/** What runs in a process of its own: one task at a time, images and levels as files, all else as messages. */
const [levelsFolder] = process.argv.slice(2);
if (levelsFolder === undefined) throw new Error('The folder of levels is not named');
const files = new LevelsFiles(levelsFolder);
const helper = new LevelsHelper(levelsFolder);
// Whoever asked is gone, and the process is about to be: nobody would take away what it was writing.
process.prependListener('disconnect', () => dropDeadParts(levelsFolder, process.pid));
const say = (message: FromArtProcess) => process.send?.(message);

process.on('message', ({ task, folder }: ToArtProcess) => {
  const kept = new Set<string>();
  const sink: ImageSink = {
    keep: async (image, png) => {
      const { id } = image.art;
      if (!kept.has(id)) await writeFile(join(folder, stagedPng(id)), png);
      kept.add(id);
      say({ kind: 'image', image });
    },
    pixels: (artId, image) => (helper.takes(image) ? helper : files).write(artId, image),
  };
  const onProgress = (done: number, total: number, what: string) =>
    say({ kind: 'progress', done, total, what });
  runArtTask(task, { sink, onProgress, onDrawing: () => say({ kind: 'drawing' }) }).then(
    (result) => say({ kind: 'done', result, bytes: process.memoryUsage.rss() }),
    (error: unknown) => say({ kind: 'failed', message: reasonOf(error) }),
  );
});
