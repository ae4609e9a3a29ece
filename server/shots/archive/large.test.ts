import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { thereAndBack } from '../../testing/large-archive.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-large-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it('an archive far larger than the memory that it takes goes out and comes in', async () => {
  const path = join(folder, 'large.zip');
  const imageBytes = 24 * 2 ** 20;
  const done = await thereAndBack(path, { shots: 40, imagesEach: 1, imageBytes });
  expect([done.images, done.shots]).toEqual([40, 40]);
  expect(done.archiveBytes).toBeGreaterThan(40 * imageBytes);
  // A few images at a time, not forty: garbage comes on top of the one that is in hand.
  expect(done.grownBytes).toBeLessThan(16 * imageBytes);
  // Sparse: it takes no room on the disk but for where each image begins.
  expect(statSync(path).blocks * 512).toBeLessThan(4 * imageBytes);
});
