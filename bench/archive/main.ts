import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { thereAndBack } from '../../server/testing/large-archive.ts';

const GIB = 2 ** 30;
const [SHOTS, IMAGES_EACH, IMAGE_BYTES] = [40, 8, 64 * 2 ** 20];

/** A production of 40 shots and 20 GiB of made-up art out as an archive and in again: the memory that it takes. */
export async function benchArchive(json: boolean): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-archive-'));
  try {
    const start = performance.now();
    const asked = { shots: SHOTS, imagesEach: IMAGES_EACH, imageBytes: IMAGE_BYTES };
    const done = await thereAndBack(join(folder, 'large.zip'), asked);
    const told = {
      shots: done.shots,
      images: done.images,
      archiveGib: done.archiveBytes / GIB,
      grownMib: done.grownBytes / 2 ** 20,
      grownOverArchive: done.grownBytes / done.archiveBytes,
      seconds: (performance.now() - start) / 1000,
    };
    if (json) console.log(JSON.stringify(told, null, 2));
    else
      console.log(
        `archive: ${told.shots} shots, ${told.images} images, ${told.archiveGib.toFixed(1)} GiB out and in, memory grew by ${told.grownMib.toFixed(0)} MiB (1/${(1 / told.grownOverArchive).toFixed(0)} of it) in ${told.seconds.toFixed(0)} s`,
      );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}
