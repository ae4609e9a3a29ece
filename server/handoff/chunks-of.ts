import type { Chunk } from '../db/handoffs.ts';

/** Output px of a chunk: about a second of work. */
const CHUNK_PX = 8 * 1920 * 1080;
const MOST_IN_CHUNK = 64;

/** Frames cut into parts of the queue, in their order: as many in each as are about a second of work. */
export function chunksOf(
  frames: Chunk['frames'],
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
): Chunk['frames'][] {
  const size = Math.max(1, Math.min(MOST_IN_CHUNK, Math.round(CHUNK_PX / (widthPx * heightPx))));
  const count = Math.ceil(frames.length / size);
  return Array.from({ length: count }, (_, i) => frames.slice(i * size, (i + 1) * size));
}
