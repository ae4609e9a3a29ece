import { zlibSync } from 'fflate';
import { cutChunk, levelsOf, type Raster, texelBytesOf } from '../image/index.ts';
import type { StreamSource } from '../kernel/memory/index.ts';

const made = new WeakMap<Raster<'straight'>, StreamSource>();

/** An image's levels in chunks as a server would send them, made once; the image is left as it is, and must stay so. */
export function levelsSource(image: Raster<'straight'>): StreamSource {
  const source = made.get(image) ?? makeSource(image);
  made.set(image, source);
  return source;
}

function makeSource(image: Raster<'straight'>): StreamSource {
  // Making levels uses pixels up.
  const levels = [...levelsOf({ ...image, data: image.data.slice() })];
  const packed = new Map<string, Uint8Array>();
  const chunkAt = (index: number, column: number, row: number): Uint8Array => {
    const name = `${index} ${column} ${row}`;
    const chunk = packed.get(name) ?? zlibSync(cutChunk(levels[index]!.level, column, row), { level: 1 });
    packed.set(name, chunk);
    return chunk;
  };
  return {
    levels: async () =>
      levels.map(({ level, tiles }) => ({
        widthPx: level.widthPx,
        heightPx: level.heightPx,
        texelBytes: texelBytesOf(level),
        tiles,
      })),
    chunks: async (index, { c0, r0, c1, r1 }) => {
      const parts: Uint8Array[] = [];
      for (let row = r0; row <= r1; row++) {
        for (let column = c0; column <= c1; column++) {
          const chunk = chunkAt(index, column, row);
          const length = new Uint8Array(4);
          new DataView(length.buffer).setUint32(0, chunk.length, true);
          parts.push(length, chunk);
        }
      }
      return new Uint8Array(Buffer.concat(parts));
    },
  };
}
