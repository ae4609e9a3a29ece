import type { ArtFault } from '@keen-ridge/core/art';
import type { ImportedPainting } from '@keen-ridge/core/contract';
import { mergeImages, type Raster, raster, unionBox, unpremultiplied } from '@keen-ridge/core/image';
import { fail, ok, type Result } from '@keen-ridge/core/units';
import sharp from 'sharp';
import { decoderFault, decodeStored, tooLarge, tooLargeFault } from './decode.ts';
import { type ImageSink, type KeptImage, keepImage } from './keep-image.ts';
import { readArtFile } from './read-art.ts';

/** Heavy work on images, done away from the thread that answers. */
export type ArtTask =
  | {
      readonly kind: 'read';
      readonly fileName: string;
      readonly bytes: Uint8Array;
      readonly svgScale: number;
    }
  | { readonly kind: 'merge'; readonly layers: readonly MergeLayer[] }
  | {
      readonly kind: 'recolour';
      readonly png: Uint8Array;
      readonly hueDeg: number;
      readonly saturation: number;
      readonly brightness: number;
    }
  | { readonly kind: 'straighten'; readonly png: Uint8Array }
  | {
      readonly kind: 'encode';
      readonly pixels: Uint8Array;
      readonly widthPx: number;
      readonly heightPx: number;
    }
  | { readonly kind: 'levels'; readonly png: Uint8Array };

export interface MergeLayer {
  readonly png: Uint8Array;
  readonly xPx: number;
  readonly yPx: number;
  readonly opacity: number;
}

export type ArtTaskResult =
  | { readonly kind: 'paintings'; readonly paintings: readonly ImportedPainting[] }
  | { readonly kind: 'image'; readonly image: KeptImage; readonly xPx: number; readonly yPx: number };

export interface TaskOptions {
  readonly sink: ImageSink;
  readonly onProgress: (done: number, total: number, what: string) => void;
}

/** Does one task; images go to the sink as they are made. */
export async function runArtTask(
  task: ArtTask,
  { sink, onProgress }: TaskOptions,
): Promise<Result<ArtTaskResult, ArtFault>> {
  const single = async (image: Result<Raster<'straight'>, ArtFault>, xPx = 0, yPx = 0) =>
    image.ok
      ? ok({ kind: 'image', image: await keepImage(image.value, null, sink), xPx, yPx } as const)
      : image;
  switch (task.kind) {
    case 'read': {
      const { fileName, bytes, svgScale } = task;
      const read = await readArtFile(fileName, bytes, { sink, svgScale, onProgress });
      return read.ok ? ok({ kind: 'paintings', paintings: read.value }) : read;
    }
    case 'merge':
      return merge(task.layers, single);
    case 'recolour':
      return single(await recolour(task));
    case 'straighten': {
      const image = await decodeStored(task.png);
      return single(image.ok ? ok(unpremultiplied(image.value)) : image);
    }
    case 'encode': {
      const { widthPx, heightPx, pixels } = task;
      if (pixels.length !== widthPx * heightPx * 4)
        return fail({
          code: 'damaged',
          detail: `${pixels.length} bytes are not ${widthPx} × ${heightPx} RGBA`,
        });
      return single(ok(raster(widthPx, heightPx, 'straight', pixels)));
    }
    case 'levels': {
      const image = await decodeStored(task.png);
      return image.ok
        ? ok({ kind: 'image', image: await keepImage(image.value, task.png, sink), xPx: 0, yPx: 0 })
        : image;
    }
  }
}

type Single = (
  image: Result<Raster<'straight'>, ArtFault>,
  xPx?: number,
  yPx?: number,
) => Promise<Result<ArtTaskResult, ArtFault>>;

/** One image of several, bottom first, of the size of their union. */
async function merge(
  layers: readonly MergeLayer[],
  single: Single,
): Promise<Result<ArtTaskResult, ArtFault>> {
  const placed: { image: Raster<'straight'>; xPx: number; yPx: number; opacity: number }[] = [];
  for (const { png, xPx, yPx, opacity } of layers) {
    const image = await decodeStored(png);
    if (!image.ok) return image;
    placed.push({ image: image.value, xPx, yPx, opacity });
  }
  const box = unionBox(placed);
  if (!box) return fail({ code: 'no-layers', detail: 'there is nothing to merge' });
  if (tooLarge(box.x1 - box.x0, box.y1 - box.y0)) return tooLargeFault(box.x1 - box.x0, box.y1 - box.y0);
  return single(ok(mergeImages(placed, box)), box.x0, box.y0);
}

async function recolour(
  task: Extract<ArtTask, { kind: 'recolour' }>,
): Promise<Result<Raster<'straight'>, ArtFault>> {
  try {
    const { hueDeg, saturation, brightness } = task;
    const { data, info } = await sharp(task.png, { limitInputPixels: false })
      .modulate({ hue: Math.round((hueDeg + 360) % 360), saturation, brightness })
      .ensureAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    return ok(
      raster(
        info.width,
        info.height,
        'straight',
        new Uint8Array(data.buffer, data.byteOffset, data.byteLength),
      ),
    );
  } catch (error) {
    return decoderFault(error);
  }
}
