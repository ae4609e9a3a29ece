import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { inflateSync } from 'node:zlib';
import { cutChunk, edgeDistances, levelsOf, type Raster } from '@keen-ridge/core/image';
import { edgeOfArt } from '@keen-ridge/core/picture';
import { randomImage, testArtId } from '@keen-ridge/core/testing';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { ArtLevels } from './art-levels.ts';
import { LevelsFiles } from './levels-file.ts';

const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-levels-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Making levels uses pixels up. */
const copyOf = (picture: Raster<'straight'>): Raster<'straight'> => ({
  ...picture,
  data: picture.data.slice(),
});

/** The file with another index at its end. */
function withIndex(whole: Buffer, change: (index: string) => string): Buffer {
  const at = whole.readDoubleLE();
  return Buffer.concat([whole.subarray(0, at), Buffer.from(change(whole.subarray(at).toString()))]);
}

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
    if (!bytes || bytes === 'gone') throw new Error('no chunks');
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
    expect(await files.chunks(testArtId(2), 0, { c0: 0, r0: 0, c1: 0, r1: 0 })).toBe('gone');
    const broken = { ...image, widthPx: Number.NaN };
    await expect(files.write(testArtId(3), broken)).rejects.toThrow();
    expect(readdirSync(folder)).toEqual([`${testArtId(1)}.levels`]);
  });

  it.each([
    ['empty', () => Buffer.alloc(0)],
    ['cut in its header', (whole: Buffer) => whole.subarray(0, 5)],
    ['cut in its chunks', (whole: Buffer) => whole.subarray(0, 3000)],
    ['cut in its index', (whole: Buffer) => whole.subarray(0, whole.length - 20)],
    [
      'naming chunks that it has not',
      (whole: Buffer) => withIndex(whole, (index) => index.replace(/\[8,\d+\]/, '[8,99999999]')),
    ],
    [
      'naming fewer chunks than there are',
      (whole: Buffer) => withIndex(whole, (index) => index.replace(/\[8,\d+\],/, '')),
    ],
    ['nothing but noughts', (whole: Buffer) => Buffer.alloc(whole.length)],
    ['text', () => Buffer.from('not levels at all, but long enough for a header')],
  ])('are made again where the file is %s', async (_what, damaged) => {
    const id = testArtId(7);
    const own = mkdtempSync(join(tmpdir(), 'keen-ridge-levels-'));
    const fresh = () => new LevelsFiles(own);
    await fresh().write(id, copyOf(image));
    const whole = readFileSync(join(own, `${id}.levels`));
    writeFileSync(join(own, `${id}.levels`), damaged(whole));
    let made = 0;
    const levels = new ArtLevels(
      fresh(),
      async () => new Uint8Array([1]),
      async (artId) => {
        made += 1;
        await fresh().write(artId, copyOf(image));
      },
    );
    const chunks = await levels.chunks(id, 0, { c0: 0, r0: 0, c1: 1, r1: 1 });
    expect([made, chunks?.length ?? 0]).toEqual([1, expect.any(Number)]);
    expect(readFileSync(join(own, `${id}.levels`)).equals(whole)).toBe(true);
    rmSync(own, { recursive: true });
  });

  it('cut short after they were opened are noticed at the first read that falls short', async () => {
    const id = testArtId(8);
    await files.write(id, copyOf(image));
    expect((await files.index(id))?.manifest.levels[0]?.widthPx).toBe(700);
    const path = join(folder, `${id}.levels`);
    writeFileSync(path, readFileSync(path).subarray(0, 100));
    expect(await files.chunks(id, 0, { c0: 1, r0: 1, c1: 1, r1: 1 })).toBe('gone');
    expect(await files.index(id)).toBeNull();
  });

  it('of another version are made again behind the work, and those of art that has gone taken away', async () => {
    const own = mkdtempSync(join(tmpdir(), 'keen-ridge-levels-'));
    const fresh = () => new LevelsFiles(own);
    for (const n of [1, 2, 3]) await fresh().write(testArtId(n), copyOf(image));
    for (const n of [1, 2]) {
      const path = join(own, `${testArtId(n)}.levels`);
      writeFileSync(
        path,
        withIndex(readFileSync(path), (index) => index.replace('"version":2', '"version":1')),
      );
    }
    const made: string[] = [];
    const levels = new ArtLevels(
      fresh(),
      async (artId) => (artId === testArtId(2) ? null : new Uint8Array([1])),
      async (artId) => {
        made.push(artId);
        await fresh().write(artId, copyOf(image));
      },
    );
    await levels.renew(new AbortController().signal);
    expect(made).toEqual([testArtId(1)]);
    expect((await fresh().stored()).sort()).toEqual([testArtId(1), testArtId(3)]);
    expect((await fresh().index(testArtId(1)))?.version).toBe(2);
    const stopped = new AbortController();
    stopped.abort();
    await levels.renew(stopped.signal);
    rmSync(own, { recursive: true });
  });

  it('hold art of low alpha in lanes, and what is solid in bytes', async () => {
    const faint = copyOf(image);
    const solid = copyOf(image);
    for (let at = 3; at < faint.data.length; at += 4) [faint.data[at], solid.data[at]] = [40, 255];
    await files.write(testArtId(11), faint);
    await files.write(testArtId(12), solid);
    expect((await files.index(testArtId(11)))?.manifest.texelBytes).toBe(8);
    expect((await files.index(testArtId(12)))?.manifest.texelBytes).toBe(4);
  });

  it('of the distances to an edge are made of the art itself, under a name of their own', async () => {
    const { data, info } = await sharp(Buffer.from(image.data), {
      raw: { width: image.widthPx, height: image.heightPx, channels: 4 },
    })
      .png()
      .toBuffer({ resolveWithObject: true });
    expect(info.channels).toBe(4);
    const asked: string[] = [];
    const levels = new ArtLevels(files, async (artId) => {
      asked.push(artId);
      return new Uint8Array(data);
    });
    const edge = edgeOfArt(testArtId(21), 'across');
    expect((await levels.manifest(edge)).texelBytes).toBe(8);
    expect(asked).toEqual([testArtId(21)]);
    const distances = edgeDistances(image, { across: true, down: false });
    const [finest] = levelsOf({ ...distances, data: distances.data.slice() });
    const chunk = await levels.chunks(edge, 0, { c0: 0, r0: 0, c1: 0, r1: 0 });
    expect(Buffer.compare(inflateSync(chunk!.subarray(4)), cutChunk(finest!.level, 0, 0))).toBe(0);
    expect(await files.index(testArtId(21))).toBeNull();
  });

  it('of art that is missing or damaged are refused by its id', async () => {
    const gone = new ArtLevels(files, async () => null);
    await expect(gone.manifest(testArtId(9))).rejects.toMatchObject({
      name: 'ArtUnreadable',
      artId: testArtId(9),
    });
    const damaged = new ArtLevels(files, async () => new Uint8Array([1, 2, 3]));
    await expect(damaged.manifest(testArtId(9))).rejects.toThrow('damaged in the store');
  });
});
