import { type ArtFault, sniff } from '@keen-ridge/core/art';
import { readPngHeader } from '@keen-ridge/core/art/png';
import { type DeepRaster, edgeDistances, type Raster, raster } from '@keen-ridge/core/image';
import { artOfEdge } from '@keen-ridge/core/picture';
import { LIMITS } from '@keen-ridge/core/scene';
import { fail, ok, type Result } from '@keen-ridge/core/units';
import sharp, { type Sharp, type SharpOptions } from 'sharp';

/** Pixels of the largest image that is opened: 24 000 × 16 000. */
export const LARGEST_PIXELS = 384_000_000;

export const tooLarge = (widthPx: number, heightPx: number): boolean =>
  widthPx * heightPx > LARGEST_PIXELS || Math.max(widthPx, heightPx) > LIMITS.artPx.max;

export const tooLargeFault = (widthPx: number, heightPx: number): { ok: false; error: ArtFault } =>
  fail({ code: 'too-large', detail: `${widthPx} × ${heightPx} px is more than 384 million pixels` });

/** What allocators, decoders and engines say when there is no more memory: libstdc++, GLib, libvips, V8. */
const NO_MEMORY =
  /bad_alloc|out of memory|failed to allocate|cannot allocate|allocation failed|memory allocation of/i;
export const isOutOfMemory = (words: string): boolean => NO_MEMORY.test(words);

/** A decoder's own words for a damaged file, one line of them; a sound one that is too much for this machine is told from it. */
export function decoderFault(error: unknown): { ok: false; error: ArtFault } {
  if (!(error instanceof Error)) throw error;
  if (isOutOfMemory(error.message))
    return fail({ code: 'too-heavy', detail: 'it needs more memory than one file may take' });
  const why = (error.message.split('\n')[0] ?? '').slice(0, 160);
  return fail({ code: 'damaged', detail: `its pixels cannot be read (${why})` });
}

/**
 * The decoder brings what has more than 8 bits from its own profile to Display P3, and only what has 8 to sRGB: the way
 * from there is asked for, but not of files without a profile, which it would take for P3.
 */
async function toSrgb(image: Sharp): Promise<Sharp> {
  const { depth, hasProfile } = await image.metadata();
  return hasProfile && depth !== 'uchar' ? image.withIccProfile('srgb', { attach: false }) : image;
}

/** Straight 8-bit sRGB RGBA of one image in any of the decoder's formats, turned upright; profiles are converted. */
export async function decodePixels(
  bytes: Uint8Array,
  options: SharpOptions = {},
): Promise<Result<Raster<'straight'>, ArtFault>> {
  try {
    const image = sharp(bytes, { limitInputPixels: LARGEST_PIXELS, failOn: 'error', ...options });
    const { data, info } = await (await toSrgb(image))
      .autoOrient()
      .toColourspace('srgb')
      .ensureAlpha()
      .raw({ depth: 'uchar' })
      .toBuffer({ resolveWithObject: true });
    const pixels = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
    return ok(raster(info.width, info.height, 'straight', pixels));
  } catch (error) {
    return decoderFault(error);
  }
}

/** The same in 16 bits a channel. */
export async function decodeDeep(bytes: Uint8Array): Promise<Result<DeepRaster, ArtFault>> {
  try {
    const image = sharp(bytes, { limitInputPixels: LARGEST_PIXELS, failOn: 'error' });
    const { data, info } = await (await toSrgb(image))
      .autoOrient()
      .toColourspace('rgb16')
      .ensureAlpha(1)
      .raw({ depth: 'ushort' })
      .toBuffer({ resolveWithObject: true });
    const pixels = new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2);
    return ok({
      widthPx: info.width,
      heightPx: info.height,
      colour: 'srgb',
      alpha: 'straight',
      data: pixels,
    });
  } catch (error) {
    return decoderFault(error);
  }
}

/** Whether a PNG has 16 bits a channel. */
export function isDeepPng(bytes: Uint8Array): boolean {
  const header = sniff(bytes) === 'png' ? readPngHeader(bytes) : null;
  return header?.ok === true && header.value.bitDepth === 16;
}

/** The pixels of a stored PNG as deep as they are stored, for its levels; or, under the name of its edge, the distances to that. */
export async function decodeForLevels(
  name: string,
  png: Uint8Array,
): Promise<Result<Raster<'straight'> | DeepRaster, ArtFault>> {
  const image = await (isDeepPng(png) ? decodeDeep(png) : decodeStored(png));
  const edge = artOfEdge(name);
  return image.ok && edge ? ok(edgeDistances(image.value, edge.endless)) : image;
}

/** The pixels of a stored PNG. */
export const decodeStored = (png: Uint8Array): Promise<Result<Raster<'straight'>, ArtFault>> =>
  decodePixels(png);

export const encodePng = async ({ data, widthPx, heightPx }: Raster): Promise<Uint8Array> =>
  new Uint8Array(
    await sharp(data, {
      raw: { width: widthPx, height: heightPx, channels: 4 },
      // Without it the encoder refuses what the decoder has let in.
      limitInputPixels: LARGEST_PIXELS,
    })
      .png({ compressionLevel: 6 })
      .toBuffer(),
  );

/** The same of 16 bits a channel. */
export async function encodeDeepPng({ data, widthPx, heightPx }: DeepRaster): Promise<Uint8Array> {
  const raw = { width: widthPx, height: heightPx, channels: 4 as const };
  const png = await sharp(data, { raw, limitInputPixels: LARGEST_PIXELS })
    .toColourspace('rgb16')
    .png({ compressionLevel: 6 })
    .toBuffer();
  return new Uint8Array(png);
}

/** A PNG whose bytes say exactly what its pixels are, so that they can be kept as they came. */
export function isPlainPng(bytes: Uint8Array, bits: 8 | 16 = 8): boolean {
  const header = sniff(bytes) === 'png' ? readPngHeader(bytes) : null;
  if (!header?.ok) return false;
  const { bitDepth, hasProfile, animated, colourType } = header.value;
  return bitDepth === bits && !hasProfile && !animated && (colourType === 2 || colourType === 6);
}
