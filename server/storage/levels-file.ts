import { type FileHandle, mkdir, open, readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { deflate } from 'node:zlib';
import { type ImageManifest, imageManifestSchema } from '@keen-ridge/core/contract';
import {
  chunkGrid,
  cutChunk,
  type DeepRaster,
  isClearChunk,
  type LevelRaster,
  levelsOf,
  type Raster,
  texelBytesOf,
} from '@keen-ridge/core/image';
import type { ArtId } from '@keen-ridge/core/scene';
import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import { settle } from './durable.ts';
import { partOf } from './levels-parts.ts';

const deflated = promisify(deflate);

/** How levels are made: those of another version are made again from the art. */
const LEVELS_VERSION = 2;

const indexSchema = z.object({
  version: z.literal(LEVELS_VERSION),
  manifest: imageManifestSchema,
  /** By level, by chunk in rows: where its bytes lie; a length of 0 is a clear chunk. */
  chunks: z.array(z.array(z.tuple([z.number(), z.number()]))),
});
type LevelsIndex = z.infer<typeof indexSchema>;

const SUFFIX = '.levels';
const HEADER_BYTES = 8;
/** Indices that are held: those of large images take some 100 kB each. */
const INDICES_KEPT = 2000;

/**
 * The levels of images as files, cut into chunks that are deflated one by one: made once, when the art comes in, and
 * made again from the art whenever one is missing. Layout: 8 bytes for the place of the index, chunks, index (JSON).
 */
export class LevelsFiles {
  readonly folder: string;
  private readonly packing: number;
  private readonly indices = new LRUCache<string, LevelsIndex>({ max: INDICES_KEPT });
  /** Parts of files that failed and could not be taken away, as where the disk could only be read. */
  private readonly partsLeft = new Set<string>();

  /** `packing`: level of deflate; 0 for files that are read once or twice and thrown away. */
  constructor(folder: string, { packing = 1 }: { readonly packing?: number } = {}) {
    this.folder = folder;
    this.packing = packing;
  }

  path(artId: ArtId): string {
    return join(this.folder, `${artId}${SUFFIX}`);
  }

  /** Writes the file, whole or not at all. Uses the image's pixels up. */
  async write(artId: ArtId, image: Raster<'straight'> | DeepRaster): Promise<void> {
    await mkdir(this.folder, { recursive: true });
    for (const left of this.partsLeft) await this.dropPart(left);
    const part = partOf(this.path(artId));
    const file = await open(part, 'w');
    try {
      let at = HEADER_BYTES;
      const levels: ImageManifest['levels'] = [];
      const chunks: LevelsIndex['chunks'] = [];
      let texelBytes: ImageManifest['texelBytes'] = 4;
      for (const { level, tiles } of levelsOf(image)) {
        const { columns, rows } = chunkGrid(level.widthPx, level.heightPx);
        texelBytes = texelBytesOf(level);
        const packed = await Promise.all(
          Array.from({ length: columns * rows }, (_, i) =>
            packChunk(level, tiles, i % columns, Math.floor(i / columns), this.packing),
          ),
        );
        const places: [number, number][] = [];
        for (const bytes of packed) {
          if (bytes.length > 0) await file.write(bytes, 0, bytes.length, at);
          places.push([at, bytes.length]);
          at += bytes.length;
        }
        chunks.push(places);
        levels.push({
          widthPx: level.widthPx,
          heightPx: level.heightPx,
          tiles: Buffer.from(await deflated(tiles)).toString('base64'),
        });
      }
      const manifest = { texelBytes, levels };
      const index = Buffer.from(
        JSON.stringify({ version: LEVELS_VERSION, manifest, chunks } satisfies LevelsIndex),
      );
      await file.write(index, 0, index.length, at);
      const header = Buffer.alloc(HEADER_BYTES);
      header.writeDoubleLE(at);
      await file.write(header, 0, HEADER_BYTES, 0);
      await file.close();
      await settle(part, this.path(artId));
    } catch (error) {
      await file.close().catch(() => {});
      await this.dropPart(part);
      throw error;
    }
  }

  /** What cannot go now goes at the next write: why that file failed is what its caller must hear. */
  private async dropPart(part: string): Promise<void> {
    this.partsLeft.add(part);
    await rm(part, { force: true }).then(
      () => this.partsLeft.delete(part),
      () => {},
    );
  }

  /** The index; null where the file has not been made, or does not hold what its index says, and must be made again. */
  async index(artId: ArtId): Promise<LevelsIndex | null> {
    const known = this.indices.get(artId);
    if (known) return known;
    const file = await this.open(artId);
    if (!file) return null;
    try {
      const index = await readIndex(file);
      if (index) this.indices.set(artId, index);
      return index;
    } finally {
      await file.close();
    }
  }

  /** The art whose levels lie in the folder, of whatever version. */
  async stored(): Promise<ArtId[]> {
    const names = await readdir(this.folder).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return [];
      throw error;
    });
    return names
      .filter((name) => name.endsWith(SUFFIX))
      .map((name) => name.slice(0, -SUFFIX.length) as ArtId);
  }

  /** Takes away a file that turned out to be damaged. */
  async drop(artId: ArtId): Promise<void> {
    this.indices.delete(artId);
    await rm(this.path(artId), { force: true });
  }

  private open(artId: ArtId): Promise<FileHandle | null> {
    return open(this.path(artId), 'r').catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return null;
      throw error;
    });
  }

  private async gone(artId: ArtId): Promise<'gone'> {
    await this.drop(artId);
    return 'gone';
  }

  /**
   * The deflated chunks of a rectangle of the grid (inclusive), row by row, each behind its length as 32 bits, little
   * endian. Null where there is no such level or chunk; `gone` where the file is missing or cut short and must be made again.
   */
  async chunks(
    artId: ArtId,
    level: number,
    rect: { c0: number; r0: number; c1: number; r1: number },
  ): Promise<Buffer | 'gone' | null> {
    const index = await this.index(artId);
    if (!index) return this.gone(artId);
    const places = index.chunks[level];
    const size = index.manifest.levels[level];
    if (!places || !size) return null;
    const { columns, rows } = chunkGrid(size.widthPx, size.heightPx);
    if (rect.c0 > rect.c1 || rect.r0 > rect.r1 || rect.c1 >= columns || rect.r1 >= rows) return null;
    const file = await this.open(artId);
    if (!file) return this.gone(artId);
    try {
      const parts: Buffer[] = [];
      for (let row = rect.r0; row <= rect.r1; row++) {
        for (let column = rect.c0; column <= rect.c1; column++) {
          const [at, length] = places[row * columns + column] as [number, number];
          const part = Buffer.alloc(4 + length);
          part.writeUInt32LE(length);
          if (length > 0 && (await file.read(part, 4, length, at)).bytesRead < length)
            return this.gone(artId);
          parts.push(part);
        }
      }
      return Buffer.concat(parts);
    } finally {
      await file.close();
    }
  }
}

/** Reads the index and looks whether everything that it names lies within the file, as one that was cut short does not. */
async function readIndex(file: FileHandle): Promise<LevelsIndex | null> {
  const { size } = await file.stat();
  const header = Buffer.alloc(HEADER_BYTES);
  const { bytesRead } = await file.read(header, 0, HEADER_BYTES, 0);
  const at = header.readDoubleLE();
  if (bytesRead < HEADER_BYTES || !Number.isInteger(at) || at < HEADER_BYTES || at >= size) return null;
  const text = Buffer.alloc(size - at);
  await file.read(text, 0, text.length, at);
  const index = indexSchema.safeParse(parseOrNull(text.toString()));
  if (!index.success) return null;
  const { chunks, manifest } = index.data;
  const whole = manifest.levels.every(({ widthPx, heightPx }, i) => {
    const { columns, rows } = chunkGrid(widthPx, heightPx);
    return (
      chunks[i]?.length === columns * rows &&
      chunks[i].every(([place, length]) => place >= HEADER_BYTES && place + length <= at)
    );
  });
  return whole ? index.data : null;
}

function parseOrNull(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch (error) {
    // Not JSON: the file is damaged, which the caller tells from what is missing.
    if (error instanceof SyntaxError) return null;
    throw error;
  }
}

const packChunk = async (
  level: LevelRaster,
  tiles: Uint8Array,
  column: number,
  row: number,
  packing: number,
): Promise<Uint8Array> =>
  isClearChunk(level, tiles, column, row)
    ? new Uint8Array()
    : deflated(cutChunk(level, column, row), { level: packing });
