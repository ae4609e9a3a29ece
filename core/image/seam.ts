import { type Raster, raster } from './raster.ts';

/** Across: the left and right edges meet; down: the upper and lower. */
export type SeamAxis = 'across' | 'down';

export interface Seam {
  /** Mean difference of premultiplied RGBA between the two edges that meet, 0 to 255. */
  readonly step: number;
  /** The same between neighbours just inside both edges: what the paint does anyway. */
  readonly inside: number;
  /** Where along the seam the step is largest, px. */
  readonly worstAt: number;
  /** More than the paint does anyway, and enough to be seen. */
  readonly visible: boolean;
}

/** A step of fewer levels than this is not seen, whatever lies beside it (common practice, no source). */
const SEEN_LEVELS = 3;
/** And it must be this many times what the paint does anyway. */
const SEEN_RATIO = 2;

/** One px as it counts in a difference: colour by its coverage. */
function premultipliedAt(image: Raster<'straight'>, x: number, y: number, channel: number): number {
  const at = (y * image.widthPx + x) * 4;
  const alpha = image.data[at + 3] as number;
  return channel === 3 ? alpha : ((image.data[at + channel] as number) * alpha) / 255;
}

/** Measures how the edges of an image meet when it is tiled along `axis`. Needs at least 4 px that way. */
export function measureSeam(image: Raster<'straight'>, axis: SeamAxis): Seam {
  const across = axis === 'across';
  const [along, size] = across ? [image.heightPx, image.widthPx] : [image.widthPx, image.heightPx];
  const difference = (i: number, p: number, q: number): number => {
    let sum = 0;
    for (let c = 0; c < 4; c++) {
      const [from, to] = across
        ? [premultipliedAt(image, p, i, c), premultipliedAt(image, q, i, c)]
        : [premultipliedAt(image, i, p, c), premultipliedAt(image, i, q, c)];
      sum += Math.abs(from - to);
    }
    return sum / 4;
  };
  let [step, inside, worst, worstAt] = [0, 0, -1, 0];
  for (let i = 0; i < along; i++) {
    const here = difference(i, size - 1, 0);
    step += here;
    inside += (difference(i, size - 2, size - 1) + difference(i, 0, 1)) / 2;
    if (here > worst) [worst, worstAt] = [here, i];
  }
  [step, inside] = [step / along, inside / along];
  return { step, inside, worstAt, visible: step >= SEEN_LEVELS && step > SEEN_RATIO * inside };
}

/** Tiled images whose size divides by this stay whole over as many halvings as a move needs. */
const WHOLE_PX = 32;

/** The width of a cross-fade of about `wishedPx` that leaves a size that divides well; null where it would leave too little. */
export function fadeWidth(sizePx: number, wishedPx: number): number | null {
  const left = Math.floor((sizePx - wishedPx) / WHOLE_PX) * WHOLE_PX;
  const fade = sizePx - left;
  return left >= WHOLE_PX && fade <= left ? fade : null;
}

/**
 * The image made to meet itself: its last `fadePx` px are laid over its first ones and fade away from the edge, so
 * that it is as much shorter. Every px that stays keeps its place from the left and the top. Colours fade by coverage.
 */
export function closeSeam(image: Raster<'straight'>, axis: SeamAxis, fadePx: number): Raster<'straight'> {
  const across = axis === 'across';
  const widthPx = across ? image.widthPx - fadePx : image.widthPx;
  const heightPx = across ? image.heightPx : image.heightPx - fadePx;
  const out = raster(widthPx, heightPx, 'straight');
  for (let y = 0; y < heightPx; y++) {
    for (let x = 0; x < widthPx; x++) {
      const to = (y * widthPx + x) * 4;
      const from = (y * image.widthPx + x) * 4;
      const into = across ? x : y;
      if (into >= fadePx) {
        out.data.set(image.data.subarray(from, from + 4), to);
        continue;
      }
      const tail = across ? from + widthPx * 4 : from + heightPx * image.widthPx * 4;
      mixInto(out, to, image, from, tail, (into + 0.5) / fadePx);
    }
  }
  return out;
}

function mixInto(
  out: Raster<'straight'>,
  to: number,
  image: Raster<'straight'>,
  head: number,
  tail: number,
  share: number,
): void {
  const headAlpha = (image.data[head + 3] as number) * share;
  const tailAlpha = (image.data[tail + 3] as number) * (1 - share);
  const alpha = headAlpha + tailAlpha;
  out.data[to + 3] = Math.round(alpha);
  for (let c = 0; c < 3 && alpha > 0; c++) {
    const mixed = (image.data[head + c] as number) * headAlpha + (image.data[tail + c] as number) * tailAlpha;
    out.data[to + c] = Math.round(mixed / alpha);
  }
}
