import { deflateSync } from 'node:zlib';
import type { ArtFault } from '@keen-ridge/core/art';
import { pngOfChunks } from '@keen-ridge/core/art/apng';
import { type DeepRaster, type Raster, raster } from '@keen-ridge/core/image';
import { ok, type Result } from '@keen-ridge/core/units';
import { decodeDeep, decodePixels } from './decode.ts';

/** Pixels of a band that goes through the converter at once. */
const BAND_PIXELS = 4_000_000;

/**
 * Converts pixels from an ICC profile to sRGB: in bands, each wrapped as a PNG that carries the profile, which the
 * decoder then converts like any other file.
 */
export async function convertProfile(
  image: Raster<'straight'>,
  profile: Uint8Array,
): Promise<Result<Raster<'straight'>, ArtFault>> {
  const out = raster(image.widthPx, image.heightPx, 'straight');
  for (const { at, values, png } of bandsOf(image, 8, profile)) {
    const converted = await decodePixels(png(values));
    if (!converted.ok) return converted;
    out.data.set(converted.value.data, at);
  }
  return ok(out);
}

/** The same in 16 bits a channel. */
export async function convertDeepProfile(
  image: DeepRaster,
  profile: Uint8Array,
): Promise<Result<DeepRaster, ArtFault>> {
  const data = new Uint16Array(image.data.length);
  for (const { at, values, png } of bandsOf(image, 16, profile)) {
    const converted = await decodeDeep(png(bigEndian(values)));
    if (!converted.ok) return converted;
    data.set(converted.value.data, at);
  }
  return ok({ ...image, data });
}

interface Band<D> {
  /** Where it begins among the values of the image. */
  readonly at: number;
  readonly values: D;
  /** It as a file, from the bytes of its values in the file's order. */
  readonly png: (bytes: Uint8Array | Uint8ClampedArray) => Uint8Array;
}

function* bandsOf<D extends Raster['data'] | Uint16Array>(
  { widthPx, heightPx, data }: { readonly widthPx: number; readonly heightPx: number; readonly data: D },
  bits: 8 | 16,
  profile: Uint8Array,
): Generator<Band<D>> {
  const name = new TextEncoder().encode('profile\0\0');
  const packed = deflateSync(profile);
  const iccp = new Uint8Array(name.length + packed.length);
  iccp.set(name);
  iccp.set(packed, name.length);
  const rows = Math.max(1, Math.floor(BAND_PIXELS / widthPx));
  for (let top = 0; top < heightPx; top += rows) {
    const height = Math.min(rows, heightPx - top);
    const [at, end] = [top * widthPx * 4, (top + height) * widthPx * 4];
    const values = data.subarray(at, end) as D;
    yield { at, values, png: (bytes) => pngOf(bytes, widthPx, height, bits, iccp) };
  }
}

/** Values of 16 bits in the order of bytes of PNG. */
function bigEndian(values: Uint16Array): Uint8Array {
  const bytes = new Uint8Array(values.length * 2);
  const view = new DataView(bytes.buffer);
  for (let i = 0; i < values.length; i++) view.setUint16(i * 2, values[i] as number);
  return bytes;
}

function pngOf(
  rgba: Uint8Array | Uint8ClampedArray,
  width: number,
  height: number,
  bits: 8 | 16,
  iccp: Uint8Array,
): Uint8Array {
  const header = new Uint8Array(13);
  new DataView(header.buffer).setUint32(0, width);
  new DataView(header.buffer).setUint32(4, height);
  header.set([bits, 6], 8);
  const row = width * (bits / 2);
  const lines = new Uint8Array(height * (row + 1));
  for (let y = 0; y < height; y++) lines.set(rgba.subarray(y * row, (y + 1) * row), y * (row + 1) + 1);
  return pngOfChunks([
    { name: 'IHDR', data: header },
    { name: 'iCCP', data: iccp },
    { name: 'IDAT', data: deflateSync(lines, { level: 1 }) },
    { name: 'IEND', data: new Uint8Array() },
  ]);
}
