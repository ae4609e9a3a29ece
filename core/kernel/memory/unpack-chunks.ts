import { unzlibSync } from 'fflate';
import { CHUNK_PX, chunkSize } from '../../image/index.ts';
import type { GrowableMemory } from './arena.ts';
import type { ChunkTarget } from './streamed-image.ts';

/** Writes fetched chunks into their level. */
export function unpackChunks(memory: GrowableMemory, { level, rect, bytes }: ChunkTarget): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const all = new Uint8Array(memory.buffer);
  const { widthPx, heightPx, strideBytes, texelBytes, pixelsAt } = level;
  let at = 0;
  for (let row = rect.r0; row <= rect.r1; row++) {
    for (let column = rect.c0; column <= rect.c1; column++) {
      const length = view.getUint32(at, true);
      const size = chunkSize(widthPx, heightPx, column, row);
      const pixels = length === 0 ? null : unzlibSync(bytes.subarray(at + 4, at + 4 + length));
      at += 4 + length;
      const first = pixelsAt + row * CHUNK_PX * strideBytes + column * CHUNK_PX * texelBytes;
      for (let y = 0; y < size.heightPx; y++) {
        const to = first + y * strideBytes;
        if (pixels)
          all.set(pixels.subarray(y * size.widthPx * texelBytes, (y + 1) * size.widthPx * texelBytes), to);
        else all.fill(0, to, to + size.widthPx * texelBytes);
      }
    }
  }
}
