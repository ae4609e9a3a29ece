import type { Box } from '../geometry/index.ts';
import { type Raster, raster } from '../image/index.ts';
import { fillHole } from './fill.ts';

const OPAQUE = 255;

/**
 * Paints what is not opaque within some boxes (art px) from what is painted round about. Pixels that have some paint
 * keep its share of their colour beneath what is filled, so that no rim shows. Null where nothing is to be filled.
 */
export function fillBare(
  image: Raster<'straight'>,
  boxes: readonly Box[],
  onProgress?: (share: number) => void,
): Raster<'straight'> | null {
  const { widthPx, heightPx, data } = image;
  const hole = new Uint8Array(widthPx * heightPx);
  let count = 0;
  for (const { x0, y0, x1, y1 } of boxes)
    for (let y = Math.max(0, Math.floor(y0)); y < Math.min(heightPx, Math.ceil(y1)); y++)
      for (let x = Math.max(0, Math.floor(x0)); x < Math.min(widthPx, Math.ceil(x1)); x++) {
        const at = y * widthPx + x;
        if (hole[at] !== 0 || data[at * 4 + 3] === OPAQUE) continue;
        hole[at] = OPAQUE;
        count += 1;
      }
  if (count === 0) return null;
  const cleared = raster(widthPx, heightPx, 'straight', Uint8Array.from(data));
  for (let at = 0; at < hole.length; at++) if (hole[at] !== 0) cleared.data.fill(0, at * 4, at * 4 + 4);
  const filled = fillHole(cleared, hole, onProgress);
  for (let at = 0; at < hole.length; at++) {
    if (hole[at] === 0) continue;
    const alpha = data[at * 4 + 3]! / OPAQUE;
    for (let c = 0; c < 3; c++)
      filled.data[at * 4 + c] = Math.round(
        alpha * data[at * 4 + c]! + (1 - alpha) * filled.data[at * 4 + c]!,
      );
  }
  return filled;
}
