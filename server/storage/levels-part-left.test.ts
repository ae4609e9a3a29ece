import { mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { randomImage, testArtId } from '@keen-ridge/core/testing';
import { afterAll, expect, it, vi } from 'vitest';
import * as durable from './durable.ts';
import { LevelsFiles } from './levels-file.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-part-left-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

vi.mock(import('./durable.ts'), async (original) => {
  const real = await original();
  return { ...real, settle: vi.fn(real.settle) };
});

it('what a disk would not let go of goes at the next write, and the fault that is told is the first', async () => {
  const files = new LevelsFiles(folder);
  let left = '';
  // A folder in the part's place: `rm` refuses it, as it refuses a file on a disk that can only be read.
  vi.mocked(durable.settle).mockImplementationOnce(async (part) => {
    left = part;
    rmSync(part);
    mkdirSync(part);
    throw new Error('the disk can only be read');
  });
  await expect(files.write(testArtId(1), randomImage(1, 40, 30))).rejects.toThrow(
    'the disk can only be read',
  );
  expect(readdirSync(folder)).toHaveLength(1);
  rmSync(left, { recursive: true });
  writeFileSync(left, 'half');
  await files.write(testArtId(1), randomImage(1, 40, 30));
  expect(readdirSync(folder)).toEqual([`${testArtId(1)}.levels`]);
});
