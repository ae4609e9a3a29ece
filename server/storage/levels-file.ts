import { mkdir, open, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { deflate } from 'node:zlib';
import { type ImageManifest, imageManifestSchema } from '@keen-ridge/core/contract';
import type { ArtId } from '@keen-ridge/core/document';
import { chunkGrid, cutChunk, isClearChunk, levelsOf, type Raster } from '@keen-ridge/core/image';
import { z } from 'zod';

const deflated = promisify(deflate);

const indexSchema = z.object({
  manifest: imageManifestSchema,
  /** By level, by chunk in rows: where its bytes lie; a length of 0 is a clear chunk. */
  chunks: z.array(z.array(z.tuple([z.number(), z.number()]))),
});
type LevelsIndex = z.infer<typeof indexSchema>;

const HEADER_BYTES = 8;

/**
 * The levels of images as files, cut into chunks that are deflated one by one: made once, when the art comes in, and
 * made again from the art whenever one is missing. Layout: 8 bytes for the place of the index, chunks, index (JSON).
 */
export class LevelsFiles {
  private readonly folder: string;
  private readonly indices = new Map<string, LevelsIndex>();

  constructor(folder: string) {
    this.folder = folder;
  }

  private path(artId: ArtId): string {
    return join(this.folder, `${artId}.levels`);
  }

  /** Writes the file, whole or not at all. Uses the image's pixels up. */
  async write(artId: ArtId, image: Raster<'straight'>): Promise<void> {
    await mkdir(this.folder, { recursive: true });
    const part = `${this.path(artId)}.${process.pid}.${Math.random().toString(36).slice(2)}.part`;
    const file = await open(part, 'w');
    try {
      let at = HEADER_BYTES;
      const levels: ImageManifest['levels'] = [];
      const chunks: LevelsIndex['chunks'] = [];
      for (const { level, tiles } of levelsOf(image)) {
        const { columns, rows } = chunkGrid(level.widthPx, level.heightPx);
        const packed = await Promise.all(
          Array.from({ length: columns * rows }, (_, i) =>
            packChunk(level, tiles, i % columns, Math.floor(i / columns)),
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
      const index = Buffer.from(JSON.stringify({ manifest: { levels }, chunks } satisfies LevelsIndex));
      await file.write(index, 0, index.length, at);
      const header = Buffer.alloc(HEADER_BYTES);
      header.writeDoubleLE(at);
      await file.write(header, 0, HEADER_BYTES, 0);
      await file.close();
      await rename(part, this.path(artId));
    } catch (error) {
      await file.close().catch(() => {});
      await rm(part, { force: true });
      throw error;
    }
  }

  /** The index, or null where the file has not been made. */
  async index(artId: ArtId): Promise<LevelsIndex | null> {
    const known = this.indices.get(artId);
    if (known) return known;
    const file = await open(this.path(artId), 'r').catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return null;
      throw error;
    });
    if (!file) return null;
    try {
      const header = Buffer.alloc(HEADER_BYTES);
      await file.read(header, 0, HEADER_BYTES, 0);
      const { size } = await file.stat();
      const at = header.readDoubleLE();
      const text = Buffer.alloc(size - at);
      await file.read(text, 0, text.length, at);
      const index = indexSchema.parse(JSON.parse(text.toString()));
      this.indices.set(artId, index);
      return index;
    } finally {
      await file.close();
    }
  }

  /**
   * The deflated chunks of a rectangle of the grid (inclusive), row by row, each behind its length as 32 bits, little
   * endian. Null where there is no such level, chunk or file.
   */
  async chunks(
    artId: ArtId,
    level: number,
    rect: { c0: number; r0: number; c1: number; r1: number },
  ): Promise<Buffer | null> {
    const index = await this.index(artId);
    const places = index?.chunks[level];
    const size = index?.manifest.levels[level];
    if (!places || !size) return null;
    const { columns, rows } = chunkGrid(size.widthPx, size.heightPx);
    if (rect.c0 > rect.c1 || rect.r0 > rect.r1 || rect.c1 >= columns || rect.r1 >= rows) return null;
    const file = await open(this.path(artId), 'r');
    try {
      const parts: Buffer[] = [];
      for (let row = rect.r0; row <= rect.r1; row++) {
        for (let column = rect.c0; column <= rect.c1; column++) {
          const [at, length] = places[row * columns + column] as [number, number];
          const part = Buffer.alloc(4 + length);
          part.writeUInt32LE(length);
          if (length > 0) await file.read(part, 4, length, at);
          parts.push(part);
        }
      }
      return Buffer.concat(parts);
    } finally {
      await file.close();
    }
  }
}

const packChunk = async (
  level: Raster<'premultiplied'>,
  tiles: Uint8Array,
  column: number,
  row: number,
): Promise<Uint8Array> =>
  isClearChunk(level, tiles, column, row)
    ? new Uint8Array()
    : deflated(cutChunk(level, column, row), { level: 1 });
