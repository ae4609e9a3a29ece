import { CHUNK_PX, chunkSize } from '../../image/index.ts';
import type { GrowableMemory } from './arena.ts';
import type { ChunkTarget } from './streamed-image.ts';

/** zlib bytes (RFC 1950) as they were before packing, which should be `bytes`. Throws, or rejects, where they are broken. */
export type Inflate = (packed: Uint8Array, bytes: number) => Uint8Array | Promise<Uint8Array>;

/** Writes fetched chunks into their level. Rejects where one is broken or is not as large as it should be. */
export async function unpackChunks(
  memory: GrowableMemory,
  { level, rect, bytes }: ChunkTarget,
  inflate: Inflate,
): Promise<void> {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const { widthPx, heightPx, strideBytes, texelBytes, pixelsAt } = level;
  let at = 0;
  for (let row = rect.r0; row <= rect.r1; row++) {
    for (let column = rect.c0; column <= rect.c1; column++) {
      const length = view.getUint32(at, true);
      const size = chunkSize(widthPx, heightPx, column, row);
      const rowBytes = size.widthPx * texelBytes;
      const packed = bytes.subarray(at + 4, at + 4 + length);
      at += 4 + length;
      const bytesHere = size.heightPx * rowBytes;
      const pixels = length === 0 ? null : await inflate(packed, bytesHere);
      if (pixels && pixels.length !== bytesHere)
        throw new Error(`A chunk has ${pixels.length} bytes instead of ${bytesHere}`);
      // Memory that is not shared may have grown meanwhile, and what was seen of it before is gone.
      const all = new Uint8Array(memory.buffer);
      const first = pixelsAt + row * CHUNK_PX * strideBytes + column * CHUNK_PX * texelBytes;
      for (let y = 0; y < size.heightPx; y++) {
        const to = first + y * strideBytes;
        if (pixels) all.set(pixels.subarray(y * rowBytes, (y + 1) * rowBytes), to);
        else all.fill(0, to, to + rowBytes);
      }
    }
  }
}
