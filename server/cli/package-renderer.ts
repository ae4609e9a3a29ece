import { mkdtemp, rm } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ShotPackage } from '@keen-ridge/core/art/package';
import { FrameRenderer } from '../pictures/frame-renderer.ts';
import { ArtLevels } from '../storage/art-levels.ts';
import { LevelsFiles } from '../storage/levels-file.ts';
import { threadPool } from '../threads/thread-pool.ts';

/** Draws the shot of a package for as long as `use` takes; levels of its art lie in a temporary folder meanwhile. */
export async function withRenderer<T>(
  art: ShotPackage['art'],
  use: (renderer: FrameRenderer) => Promise<T>,
  threads = availableParallelism(),
): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'keen-ridge-levels-'));
  // Read once or twice and thrown away: packing would cost more than it saves.
  const files = new LevelsFiles(folder, { packing: 0 });
  const levels = new ArtLevels(files, async (artId) => art.get(artId) ?? null);
  const renderer = new FrameRenderer(
    () => threadPool(threads),
    threads,
    (id) => levels.source(id),
  );
  try {
    return await use(renderer);
  } finally {
    await renderer.close();
    await rm(folder, { recursive: true, force: true });
  }
}
