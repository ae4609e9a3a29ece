import { isLanes, type LevelRaster } from './lanes.ts';
import { type Raster, raster, wordsOf } from './raster.ts';

/** Size of mip level `level`: halves, rounded up. Its pixels share the art evenly: each is sizePx/mipSizePx art px wide. */
export const mipSizePx = (sizePx: number, level: number): number =>
  Math.max(1, Math.ceil(sizePx / 2 ** level));

/** How many levels there are down to a single pixel. */
export const mipCount = (widthPx: number, heightPx: number): number =>
  1 + Math.ceil(Math.log2(Math.max(widthPx, heightPx, 1)));

/** The coarsest level whose pixels are no larger than an output px, for a map that shows `outPxPerArtPx` of them for an art px. */
export function mipLevelFor(outPxPerArtPx: number, levels: number): number {
  if (!(outPxPerArtPx > 0)) return levels - 1;
  return Math.min(levels - 1, Math.max(0, Math.floor(Math.log2(1 / outPxPerArtPx) + 1e-9)));
}

const EVERY_OTHER = 0x00ff00ff;
const HALF = 0x00020002;

/**
 * The next coarser level: each pixel is the mean of the premultiplied pixels that it covers, by area, rounded to nearest.
 * Of an odd side the pixels are a little less than two wide, so that the level ends where the art does: what is tiled meets
 * itself at every level.
 */
export function halve<L extends LevelRaster>(image: L): L;
export function halve(image: LevelRaster): LevelRaster {
  const [width, height] = [mipSizePx(image.widthPx, 1), mipSizePx(image.heightPx, 1)];
  if (isLanes(image)) {
    const data = new Uint16Array(width * height * 4);
    halveByArea(image, { widthPx: width, heightPx: height, data });
    return { ...image, widthPx: width, heightPx: height, data };
  }
  if (((image.widthPx | image.heightPx) & 1) === 0) return halveEven(image);
  const out = raster(width, height, 'premultiplied');
  halveByArea(image, out);
  return out;
}

/** 2 × 2 means, two channels at a time: four bytes and a half add up to at most 1022, which fits between them. */
function halveEven(image: Raster<'premultiplied'>): Raster<'premultiplied'> {
  const out = raster(image.widthPx / 2, image.heightPx / 2, 'premultiplied');
  const { widthPx: width } = image;
  const [from, to] = [wordsOf(image.data), wordsOf(out.data)];
  for (let y = 0; y < out.heightPx; y++) {
    for (let x = 0; x < out.widthPx; x++) {
      const at = 2 * y * width + 2 * x;
      const p = from[at] as number;
      const q = from[at + 1] as number;
      const r = from[at + width] as number;
      const s = from[at + width + 1] as number;
      if ((p | q | r | s) === 0) continue;
      const even = (p & EVERY_OTHER) + (q & EVERY_OTHER) + (r & EVERY_OTHER) + (s & EVERY_OTHER) + HALF;
      const odd =
        ((p >>> 8) & EVERY_OTHER) +
        ((q >>> 8) & EVERY_OTHER) +
        ((r >>> 8) & EVERY_OTHER) +
        ((s >>> 8) & EVERY_OTHER) +
        HALF;
      to[y * out.widthPx + x] = ((even >>> 2) & EVERY_OTHER) | (((odd >>> 2) & EVERY_OTHER) << 8);
    }
  }
  return out;
}

/** Of each px of a side that is halved: the first that it covers, and its shares of that and of the next two. */
interface Shares {
  readonly first: Int32Array;
  readonly shares: Float64Array;
}

function sharesOf(sizePx: number): Shares {
  const count = mipSizePx(sizePx, 1);
  const wide = sizePx / count;
  const first = new Int32Array(count);
  const shares = new Float64Array(count * 3);
  for (let i = 0; i < count; i++) {
    // In whole numbers, since a share of nothing would read past the end.
    const from = Math.floor((i * sizePx) / count);
    first[i] = from;
    for (let k = 0; k < 3; k++) {
      const covered = Math.min((i + 1) * wide, from + k + 1) - Math.max(i * wide, from + k);
      shares[3 * i + k] = from + k < sizePx ? Math.max(0, covered) / wide : 0;
    }
  }
  return { first, shares };
}

interface Values {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly data: Uint8Array | Uint8ClampedArray | Uint16Array;
}

function halveByArea({ widthPx: width, heightPx: height, data }: Values, out: Values): void {
  const [across, down] = [sharesOf(width), sharesOf(height)];
  const row = new Float64Array(width * 4);
  for (let y = 0, to = 0; y < out.heightPx; y++) {
    row.fill(0.5);
    for (let k = 0; k < 3; k++) {
      const share = down.shares[3 * y + k] as number;
      if (share === 0) continue;
      const from = ((down.first[y] as number) + k) * width * 4;
      for (let i = 0; i < row.length; i++) row[i] = (row[i] as number) + share * (data[from + i] as number);
    }
    for (let x = 0; x < out.widthPx; x++) {
      const at = (across.first[x] as number) * 4;
      const p = across.shares[3 * x] as number;
      const q = across.shares[3 * x + 1] as number;
      const r = across.shares[3 * x + 2] as number;
      for (let c = at; c < at + 4; c++, to++) {
        const third = r === 0 ? 0 : r * (row[c + 8] as number);
        const second = q === 0 ? 0 : q * (row[c + 4] as number);
        out.data[to] = Math.floor(p * (row[c] as number) + second + third);
      }
    }
  }
}
