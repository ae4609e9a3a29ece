import { unzlibSync } from 'fflate';
import { CHUNK_PX, chunkSize } from '../../image/index.ts';
import type { GrowableMemory } from './arena.ts';
import type { ChunkTarget } from './streamed-image.ts';

/** Writes fetched chunks into their level, with the clear border where a chunk lies at the level's edge. */
export function unpackChunks(memory: GrowableMemory, { level, rect, bytes }: ChunkTarget): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const all = new Uint8Array(memory.buffer);
  const { widthPx, heightPx, strideBytes, pixelsAt } = level;
  let at = 0;
  for (let row = rect.r0; row <= rect.r1; row++) {
    for (let column = rect.c0; column <= rect.c1; column++) {
      const length = view.getUint32(at, true);
      const size = chunkSize(widthPx, heightPx, column, row);
      const pixels = length === 0 ? null : unzlibSync(bytes.subarray(at + 4, at + 4 + length));
      at += 4 + length;
      const first = pixelsAt + (row * CHUNK_PX + 1) * strideBytes + (column * CHUNK_PX + 1) * 4;
      for (let y = 0; y < size.heightPx; y++) {
        const to = first + y * strideBytes;
        if (pixels) all.set(pixels.subarray(y * size.widthPx * 4, (y + 1) * size.widthPx * 4), to);
        else all.fill(0, to, to + size.widthPx * 4);
      }
      clearBorder(all, first, size, { ...level, atLeft: column === 0, atTop: row === 0 }, column, row);
    }
  }
}

function clearBorder(
  all: Uint8Array,
  first: number,
  size: { widthPx: number; heightPx: number },
  edge: { widthPx: number; heightPx: number; strideBytes: number; atLeft: boolean; atTop: boolean },
  column: number,
  row: number,
): void {
  const atRight = column * CHUNK_PX + size.widthPx === edge.widthPx;
  const atBottom = row * CHUNK_PX + size.heightPx === edge.heightPx;
  const from = first - (edge.atLeft ? 4 : 0);
  const to = first + size.widthPx * 4 + (atRight ? 4 : 0);
  if (edge.atTop) all.fill(0, from - edge.strideBytes, to - edge.strideBytes);
  if (atBottom) all.fill(0, from + size.heightPx * edge.strideBytes, to + size.heightPx * edge.strideBytes);
  for (let y = 0; y < size.heightPx; y++) {
    const line = first + y * edge.strideBytes;
    if (edge.atLeft) all.fill(0, line - 4, line);
    if (atRight) all.fill(0, line + size.widthPx * 4, line + size.widthPx * 4 + 4);
  }
}
