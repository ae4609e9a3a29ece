import { zlibSync } from 'fflate';
import { cutChunk, levelsOf, type Raster, texelBytesOf } from '../image/index.ts';
import type { StreamSource } from '../kernel/memory/index.ts';

/** An image's levels in chunks as a server would send them; the image is left as it is. */
export function levelsSource(image: Raster<'straight'>): StreamSource {
  // Making levels uses pixels up.
  const levels = [...levelsOf({ ...image, data: image.data.slice() })];
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
          const chunk = zlibSync(cutChunk(levels[index]!.level, column, row), { level: 1 });
          const length = new Uint8Array(4);
          new DataView(length.buffer).setUint32(0, chunk.length, true);
          parts.push(length, chunk);
        }
      }
      return new Uint8Array(Buffer.concat(parts));
    },
  };
}
