import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';
import { cutChunk, levelsOf, type Raster } from '@keen-ridge/core/image';
import { randomImage, testArtId } from '@keen-ridge/core/testing';
import { afterAll, describe, expect, it } from 'vitest';
import { LevelsFiles } from './levels-file.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-levels-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Making levels uses pixels up. */
const copyOf = (picture: Raster<'straight'>): Raster<'straight'> => ({
  ...picture,
  data: picture.data.slice(),
});

describe('levels in a file', () => {
  const image = randomImage(5, 700, 530);
  const files = new LevelsFiles(folder);

  it('come back chunk by chunk as they were made', async () => {
    await files.write(testArtId(1), copyOf(image));
    const index = await new LevelsFiles(folder).index(testArtId(1));
    const levels = [...levelsOf(copyOf(image))];
    expect(index?.manifest.levels.map(({ widthPx, heightPx }) => [widthPx, heightPx])).toEqual(
      levels.map(({ level }) => [level.widthPx, level.heightPx]),
    );
    const first = index?.manifest.levels[0];
    expect(inflateSync(Buffer.from(first?.tiles ?? '', 'base64')).equals(Buffer.from(levels[0]!.tiles))).toBe(
      true,
    );
    const bytes = await files.chunks(testArtId(1), 0, { c0: 0, r0: 1, c1: 1, r1: 1 });
    if (!bytes) throw new Error('no chunks');
    let at = 0;
    for (const column of [0, 1]) {
      const length = bytes.readUInt32LE(at);
      const pixels = inflateSync(bytes.subarray(at + 4, at + 4 + length));
      expect(pixels.equals(Buffer.from(cutChunk(levels[0]!.level, column, 1)))).toBe(true);
      at += 4 + length;
    }
    expect(at).toBe(bytes.length);
  });

  it('say null for what is not there, and leave no halves', async () => {
    expect(await files.index(testArtId(2))).toBeNull();
    expect(await files.chunks(testArtId(1), 0, { c0: 0, r0: 0, c1: 2, r1: 0 })).toBeNull();
    expect(await files.chunks(testArtId(1), 99, { c0: 0, r0: 0, c1: 0, r1: 0 })).toBeNull();
    const broken = { ...image, widthPx: Number.NaN };
    await expect(files.write(testArtId(3), broken)).rejects.toThrow();
    expect(readdirSync(folder)).toEqual([`${testArtId(1)}.levels`]);
  });
});
