import { createHash } from 'node:crypto';
import { cutEdges, type DeepRaster, likenessOf, paintedBox, type Raster } from '@keen-ridge/core/image';
import { type ArtId, type ArtRef, artIdSchema } from '@keen-ridge/core/scene';
import { encodeDeepPng, encodePng } from './decode.ts';

/** The name of an image: the SHA-256 of its PNG. */
export const artIdOf = (png: Uint8Array): ArtId =>
  artIdSchema.parse(createHash('sha256').update(png).digest('hex'));

/** File of an image in the folder of the task that brings it. */
export const stagedPng = (id: ArtId): string => `${id}.png`;

export interface KeptImage {
  readonly art: ArtRef;
  readonly likeness: readonly number[];
}

/** Where images go as they are read. */
export interface ImageSink {
  /** Called once for each image, with the PNG bytes that its id names. */
  keep(image: KeptImage, png: Uint8Array): Promise<void>;
  /** Called after it with the pixels, for whatever is made of them once and for all; they may be used up by it. */
  pixels?(artId: ArtId, image: Raster<'straight'> | DeepRaster): Promise<void>;
}

/**
 * Names an image by its PNG bytes (`plain`, where the file's own bytes will do) and finds its facts. `deep`: the same
 * pixels in 16 bits a channel, which are then what is kept.
 */
export async function keepImage(
  image: Raster<'straight'>,
  plain: Uint8Array | null,
  sink: ImageSink,
  deep: DeepRaster | null = null,
): Promise<KeptImage> {
  const png = plain ?? (await (deep ? encodeDeepPng(deep) : encodePng(image)));
  const painted = paintedBox(image);
  const { widthPx, heightPx } = image;
  const art: ArtRef = { id: artIdOf(png), widthPx, heightPx, painted, cutEdges: cutEdges(image, painted) };
  const kept: KeptImage = { art, likeness: likenessOf(image, painted) };
  await sink.keep(kept, png);
  await sink.pixels?.(art.id, deep ?? image);
  return kept;
}
