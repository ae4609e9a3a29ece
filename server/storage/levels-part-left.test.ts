import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { randomImage, testArtId } from '@keen-ridge/core/testing';
import { afterAll, expect, it } from 'vitest';
import { LevelsFiles } from './levels-file.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-part-left-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it('what a disk would not let go of goes at the next write, and the fault that is told is the first', async () => {
  const files = new LevelsFiles(folder);
  const image = randomImage(1, 40, 30);
  let left = '';
  const failing = {
    ...image,
    // A folder in the part's place: `rm` refuses it, as it refuses a file on a disk that can only be read.
    get widthPx(): number {
      left = join(folder, readdirSync(folder)[0] ?? '');
      rmSync(left);
      mkdirSync(left);
      throw new Error('the disk can only be read');
    },
  };
  await expect(files.write(testArtId(1), failing)).rejects.toThrow('the disk can only be read');
  expect(readdirSync(folder)).toHaveLength(1);
  rmSync(left, { recursive: true });
  writeFileSync(left, 'half');
  await files.write(testArtId(1), image);
  expect(readdirSync(folder)).toEqual([`${testArtId(1)}.levels`]);
});
