import { type Raster, raster } from '../image/index.ts';
import { seededRandom } from '../units/index.ts';

/** Soft blobs of paint with opaque, clear and misty parts: what the renderer has to get right. */
export function randomImage(seed: number, widthPx: number, heightPx: number): Raster<'straight'> {
  const random = seededRandom(seed);
  const image = raster(widthPx, heightPx, 'straight');
  const [cx, cy, reach] = [
    random() * widthPx,
    random() * heightPx,
    (0.2 + random()) * Math.max(widthPx, heightPx),
  ];
  for (let y = 0; y < heightPx; y++) {
    for (let x = 0; x < widthPx; x++) {
      const near = 1.5 - Math.hypot(x - cx, y - cy) / reach + (random() - 0.5) * 0.2;
      const at = (y * widthPx + x) * 4;
      for (let c = 0; c < 3; c++) image.data[at + c] = Math.floor(random() * 256);
      image.data[at + 3] = Math.round(255 * Math.min(1, Math.max(0, near)));
    }
  }
  return image;
}
