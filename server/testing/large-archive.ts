import { stat } from 'node:fs/promises';
import type { ArtId } from '@keen-ridge/core/scene';
import { testArt, testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { readArchive } from '../shots/archive/archive-in.ts';
import { type ArchivedShot, writeArchive } from '../shots/archive/archive-out.ts';
import { sparseFile } from './sparse-file.ts';

export interface ThereAndBack {
  readonly archiveBytes: number;
  /** Images that came back as they went, and shots. */
  readonly images: number;
  readonly shots: number;
  /** The most memory that the process had meanwhile, over what it had before, bytes. */
  readonly grownBytes: number;
}

/**
 * Writes a production of so many shots, each with images of its own, as an archive, and reads it back. The images are
 * made up, nearly all nought, so that the file takes no room; their ids stand at their beginning.
 */
export async function thereAndBack(
  path: string,
  { shots, imagesEach, imageBytes }: { shots: number; imagesEach: number; imageBytes: number },
): Promise<ThereAndBack> {
  const before = process.memoryUsage().rss;
  let most = before;
  const look = () => {
    most = Math.max(most, process.memoryUsage().rss);
  };
  const made = Buffer.alloc(imageBytes);
  async function* all(): AsyncGenerator<ArchivedShot> {
    for (let i = 0; i < shots; i++) {
      const planes = Array.from({ length: imagesEach }, (_, k) => {
        const art = testArt(1 + i * imagesEach + k);
        return testPlane({ id: testPlaneId(`p${k}`), content: { kind: 'still', art, made: null } });
      });
      yield { name: `Shot ${i + 1}`, scene: testScene(planes), takes: [], history: null };
    }
  }
  const pngOf = async (id: ArtId): Promise<Uint8Array> => {
    look();
    // A copy, as every image that is read is.
    const png = Buffer.from(made);
    png.write(id, 0, 'latin1');
    return png;
  };
  const never = new AbortController().signal;
  const kept = { name: 'Large', surveyLimits: null, looks: [], shelf: [], sets: [] };
  const soundOf = async () => null;
  await writeArchive({ kept, shots: all(), pngOf, soundOf }, await sparseFile(path), never);
  let images = 0;
  const keepArt = async (id: ArtId, png: Uint8Array): Promise<string | null> => {
    look();
    if (png.length !== imageBytes || Buffer.from(png.subarray(0, id.length)).toString('latin1') !== id)
      return 'is another';
    images += 1;
    return null;
  };
  const hooks = { keepArt, keepSound: async () => null, signal: never };
  const { production, leftOut } = await readArchive('large.zip', path, hooks);
  if (leftOut.length > 0) throw new Error(leftOut[0]);
  return {
    archiveBytes: (await stat(path)).size,
    images,
    shots: production.shots.length,
    grownBytes: most - before,
  };
}
