import type { ArtFault, ArtFileKind } from '@keen-ridge/core/art';
import { composeApng, readApng } from '@keen-ridge/core/art/apng';
import { readPngHeader } from '@keen-ridge/core/art/png';
import { type Raster, raster } from '@keen-ridge/core/image';
import { fail, ok, type Result } from '@keen-ridge/core/units';
import sharp from 'sharp';
import { decodePixels, decoderFault, LARGEST_PIXELS, tooLarge, tooLargeFault } from './decode.ts';
import { type KeptImage, keepImage } from './keep-image.ts';
import { movingFault } from './moving-limits.ts';
import { paintingOfOne } from './one-layer.ts';
import type { ReadOptions, ReadResult } from './read-options.ts';

/** Whether a file holds more than one picture in time. */
export async function isMovingFile(kind: ArtFileKind, bytes: Uint8Array): Promise<boolean> {
  if (kind === 'png') {
    const header = readPngHeader(bytes);
    return header.ok && header.value.animated;
  }
  if (kind !== 'gif' && kind !== 'webp') return false;
  try {
    const { pages } = await sharp(bytes, { limitInputPixels: LARGEST_PIXELS }).metadata();
    return (pages ?? 1) > 1;
  } catch {
    // The still reader says what is wrong with it.
    return false;
  }
}

/** Shown when a file gives no time or one too short to mean it: a tenth of a second, as browsers do. */
const USUAL_DELAY_MS = 100;
const SHORTEST_DELAY_MS = 11;

const delayOf = (ms: number | undefined): number =>
  ms === undefined || ms < SHORTEST_DELAY_MS ? USUAL_DELAY_MS : ms;

/** A file that moves becomes a painting of one layer with frames. */
export async function readMoving(
  fileName: string,
  kind: ArtFileKind,
  bytes: Uint8Array,
  options: ReadOptions,
): Promise<ReadResult> {
  const read = kind === 'png' ? await apngFrames(bytes, options) : await pagedFrames(bytes, options);
  if (!read.ok) return read;
  const [first] = read.value;
  if (!first) return fail({ code: 'damaged', detail: 'it is said to move but has no frames' });
  const frames = read.value.map(({ art, delayMs }) => ({ art, delayMs }));
  return ok([paintingOfOne(fileName, first, { frames })]);
}

type Frame = KeptImage & { readonly delayMs: number };

async function apngFrames(
  bytes: Uint8Array,
  { sink, onProgress }: ReadOptions,
): Promise<Result<Frame[], ArtFault>> {
  const apng = readApng(bytes);
  if (!apng.ok) return apng;
  const { widthPx, heightPx, frames } = apng.value;
  if (tooLarge(widthPx, heightPx)) return tooLargeFault(widthPx, heightPx);
  const tooMany = movingFault(widthPx, heightPx, frames.length);
  if (tooMany) return tooMany;
  const kept: Frame[] = [];
  try {
    const pictures = composeApng(apng.value, async ({ png }) => {
      const image = await decodePixels(png);
      if (!image.ok) throw new DamagedFrame(image.error);
      return image.value;
    });
    for await (const picture of pictures) {
      onProgress?.(kept.length, frames.length, `frame ${kept.length + 1}`);
      const delayMs = delayOf(frames[kept.length]?.delayMs);
      kept.push({ ...(await keepImage(picture, null, sink)), delayMs });
    }
    return ok(kept);
  } catch (error) {
    if (error instanceof DamagedFrame)
      return fail({ ...error.fault, detail: `frame ${kept.length + 1}: ${error.fault.detail}` });
    throw error;
  }
}

class DamagedFrame extends Error {
  readonly fault: ArtFault;

  constructor(fault: ArtFault) {
    super(fault.detail);
    this.fault = fault;
  }
}

/** Pixels of frames that are decoded at once: a frame far into a file is decoded from the first one on, every time. */
const BATCH_PIXELS = 64_000_000;

/** One of `count` frames that lie below one another, with pixels of its own. */
function frameOfStrip(strip: Raster<'straight'>, index: number, count: number): Raster<'straight'> {
  const heightPx = strip.heightPx / count;
  const bytes = strip.widthPx * heightPx * 4;
  return raster(strip.widthPx, heightPx, 'straight', strip.data.slice(index * bytes, (index + 1) * bytes));
}

async function pagedFrames(
  bytes: Uint8Array,
  { sink, onProgress }: ReadOptions,
): Promise<Result<Frame[], ArtFault>> {
  try {
    const {
      pages = 1,
      width,
      height,
      pageHeight = height,
      delay = [],
    } = await sharp(bytes, {
      limitInputPixels: LARGEST_PIXELS,
    }).metadata();
    const tooMany = movingFault(width, pageHeight, pages);
    if (tooMany) return tooMany;
    const kept: Frame[] = [];
    const batch = Math.max(1, Math.floor(BATCH_PIXELS / (width * pageHeight)));
    for (let first = 0; first < pages; first += batch) {
      const count = Math.min(batch, pages - first);
      onProgress?.(first, pages, `frame ${first + 1}`);
      const strip = await decodePixels(bytes, { page: first, pages: count });
      if (!strip.ok) return fail({ ...strip.error, detail: `frame ${first + 1}: ${strip.error.detail}` });
      for (let i = 0; i < count; i++) {
        onProgress?.(first + i, pages, `frame ${first + i + 1}`);
        const delayMs = delayOf(delay[first + i]);
        const frame = frameOfStrip(strip.value, i, count);
        kept.push({ ...(await keepImage(frame, null, sink)), delayMs });
      }
    }
    return ok(kept);
  } catch (error) {
    return decoderFault(error);
  }
}
