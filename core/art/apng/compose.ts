import { type Raster, raster } from '../../image/index.ts';
import type { Apng, ApngFrame } from './read.ts';

/**
 * The whole pictures of an animated PNG, one a frame: each frame's rectangle put on the canvas by its blend operation,
 * and the canvas disposed of afterwards as the frame says (PNG Specification, Third Edition, section 13.10).
 * `decode` gives the straight RGBA of one frame's rectangle.
 */
export async function* composeApng(
  { widthPx, heightPx, frames }: Apng,
  decode: (frame: ApngFrame) => Promise<Raster<'straight'>>,
): AsyncGenerator<Raster<'straight'>> {
  const canvas = raster(widthPx, heightPx, 'straight');
  for (const [index, frame] of frames.entries()) {
    const before = frame.dispose === 'previous' && index > 0 ? canvas.data.slice() : null;
    put(canvas, await decode(frame), frame);
    yield raster(widthPx, heightPx, 'straight', canvas.data.slice());
    if (before) canvas.data.set(before);
    else if (frame.dispose !== 'none') clear(canvas, frame);
  }
}

function put(canvas: Raster, image: Raster, { xPx, yPx, blend }: ApngFrame): void {
  for (let y = 0; y < image.heightPx; y++) {
    const to = ((y + yPx) * canvas.widthPx + xPx) * 4;
    const row = image.data.subarray(y * image.widthPx * 4, (y + 1) * image.widthPx * 4);
    if (blend === 'source') canvas.data.set(row, to);
    else for (let i = 0; i < row.length; i += 4) overStraight(canvas.data, to + i, row, i);
  }
}

/** Source-over of straight colours, rounded once (PNG Specification, section 12.3.1). */
function overStraight(to: Raster['data'], at: number, from: Raster['data'], i: number): void {
  const alpha = from[i + 3] as number;
  if (alpha === 0) return;
  const under = ((to[at + 3] as number) * (255 - alpha)) / 255;
  const sum = alpha + under;
  for (let c = 0; c < 3; c++)
    to[at + c] = Math.round(((from[i + c] as number) * alpha + (to[at + c] as number) * under) / sum);
  to[at + 3] = Math.round(sum);
}

function clear(canvas: Raster, { xPx, yPx, widthPx, heightPx }: ApngFrame): void {
  for (let y = yPx; y < yPx + heightPx; y++) {
    const at = (y * canvas.widthPx + xPx) * 4;
    canvas.data.fill(0, at, at + widthPx * 4);
  }
}
