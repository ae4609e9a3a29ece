import { open, readFile } from 'node:fs/promises';
import { type ArtFault, mergeImages, type PlacedImage, sniff, unionBox } from '@keen-ridge/core/art';
import type { ImportedPainting } from '@keen-ridge/core/art/landing';
import { edgeDistances, type Raster, raster, unpremultiplied } from '@keen-ridge/core/image';
import type { BlendMode } from '@keen-ridge/core/paint';
import { artOfEdge } from '@keen-ridge/core/picture';
import type { ArtId } from '@keen-ridge/core/scene';
import { fail, ok, type Result } from '@keen-ridge/core/units';
import sharp from 'sharp';
import { decodeDeep, decoderFault, decodeStored, isDeepPng, tooLarge, tooLargeFault } from './decode.ts';
import { readFilm } from './film/read-film.ts';
import { type ImageSink, type KeptImage, keepImage } from './keep-image.ts';
import { readArtFile } from './read-art.ts';
import { type ReadShot, readShotPackage } from './read-package.ts';

/** Heavy work on images, done away from the process that answers. What it works on lies in files: `path`. */
export type ArtTask =
  | {
      readonly kind: 'read';
      readonly fileName: string;
      readonly path: string;
      readonly svgScale: number;
    }
  /** An open package, as a shot. */
  | { readonly kind: 'package'; readonly path: string }
  | { readonly kind: 'merge'; readonly layers: readonly MergeLayer[] }
  | {
      readonly kind: 'recolour';
      readonly path: string;
      readonly hueDeg: number;
      readonly saturation: number;
      readonly brightness: number;
    }
  | { readonly kind: 'straighten'; readonly path: string }
  | {
      readonly kind: 'encode';
      readonly path: string;
      readonly widthPx: number;
      readonly heightPx: number;
    }
  /** Makes the levels of stored art anew, or, under the name of its edge, those of the distances to that. */
  | { readonly kind: 'levels'; readonly name: ArtId; readonly path: string };

export interface MergeLayer {
  readonly path: string;
  readonly xPx: number;
  readonly yPx: number;
  readonly opacity: number;
  readonly mode?: BlendMode | undefined;
}

export type ArtTaskResult =
  | { readonly kind: 'paintings'; readonly paintings: readonly ImportedPainting[] }
  | ({ readonly kind: 'shot' } & ReadShot)
  | { readonly kind: 'image'; readonly image: KeptImage; readonly xPx: number; readonly yPx: number };

export interface TaskOptions {
  readonly sink: ImageSink;
  readonly onProgress: (done: number, total: number, what: string) => void;
  /** Called before a drawing is rendered. */
  readonly onDrawing: () => void;
}

async function isFilm(path: string): Promise<boolean> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(new Uint8Array(64), 0, 64, 0);
    return sniff(buffer.subarray(0, bytesRead)) === 'film';
  } finally {
    await file.close();
  }
}

const bytesOf = async (path: string): Promise<Uint8Array> => new Uint8Array(await readFile(path));

/** Does one task; images go to the sink as they are made. */
export async function runArtTask(
  task: ArtTask,
  { sink, onProgress, onDrawing }: TaskOptions,
): Promise<Result<ArtTaskResult, ArtFault>> {
  const single = async (image: Result<Raster<'straight'>, ArtFault>, xPx = 0, yPx = 0) =>
    image.ok
      ? ok({ kind: 'image', image: await keepImage(image.value, null, sink), xPx, yPx } as const)
      : image;
  switch (task.kind) {
    case 'read': {
      const { fileName, path, svgScale } = task;
      const options = { sink, svgScale, onProgress, onDrawing };
      // A film is not held whole: it may be far larger than a frame of it.
      const read = (await isFilm(path))
        ? await readFilm(fileName, path, options)
        : await readArtFile(fileName, await bytesOf(path), options);
      return read.ok ? ok({ kind: 'paintings', paintings: read.value }) : read;
    }
    case 'package': {
      const read = await readShotPackage(await bytesOf(task.path), sink, onProgress);
      return read.ok ? ok({ kind: 'shot', ...read.value }) : read;
    }
    case 'merge':
      return merge(task.layers, single);
    case 'recolour':
      return single(await recolour(task));
    case 'straighten': {
      const image = await decodeStored(await bytesOf(task.path));
      return single(image.ok ? ok(unpremultiplied(image.value)) : image);
    }
    case 'encode': {
      const { widthPx, heightPx, path } = task;
      const pixels = await bytesOf(path);
      if (pixels.length !== widthPx * heightPx * 4)
        return fail({
          code: 'damaged',
          detail: `${pixels.length} bytes are not ${widthPx} × ${heightPx} RGBA`,
        });
      return single(ok(raster(widthPx, heightPx, 'straight', pixels)));
    }
    case 'levels': {
      const png = await bytesOf(task.path);
      const image = await decodeStored(png);
      if (!image.ok) return image;
      const deep = isDeepPng(png) ? await decodeDeep(png) : null;
      if (deep && !deep.ok) return deep;
      const edge = artOfEdge(task.name);
      // Before the pixels are used up.
      const distances = edge && edgeDistances(deep?.value ?? image.value, edge.endless);
      const kept = await keepImage(image.value, png, sink, deep?.value ?? null);
      if (distances) await sink.pixels?.(task.name, distances);
      return ok({ kind: 'image', image: kept, xPx: 0, yPx: 0 });
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
  const placed: PlacedImage[] = [];
  for (const { path, ...place } of layers) {
    const image = await decodeStored(await bytesOf(path));
    if (!image.ok) return image;
    placed.push({ image: image.value, ...place });
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
    const { data, info } = await sharp(task.path, { limitInputPixels: false })
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
