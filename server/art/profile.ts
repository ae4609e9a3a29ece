import { deflateSync } from 'node:zlib';
import type { ArtFault } from '@keen-ridge/core/art';
import { pngOfChunks } from '@keen-ridge/core/art/apng';
import { type Raster, raster } from '@keen-ridge/core/image';
import type { Result } from '@keen-ridge/core/units';
import { decodePixels } from './decode.ts';

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
  const rows = Math.max(1, Math.floor(BAND_PIXELS / image.widthPx));
  const name = new TextEncoder().encode('profile\0\0');
  const packed = deflateSync(profile);
  const iccp = new Uint8Array(name.length + packed.length);
  iccp.set(name);
  iccp.set(packed, name.length);
  for (let top = 0; top < image.heightPx; top += rows) {
    const height = Math.min(rows, image.heightPx - top);
    const band = image.data.subarray(top * image.widthPx * 4, (top + height) * image.widthPx * 4);
    const converted = await decodePixels(pngOf(band, image.widthPx, height, iccp));
    if (!converted.ok) return converted;
    out.data.set(converted.value.data, top * image.widthPx * 4);
  }
  return { ok: true, value: out };
}

function pngOf(rgba: Raster['data'], width: number, height: number, iccp: Uint8Array): Uint8Array {
  const header = new Uint8Array(13);
  new DataView(header.buffer).setUint32(0, width);
  new DataView(header.buffer).setUint32(4, height);
  header.set([8, 6], 8);
  const lines = new Uint8Array(height * (width * 4 + 1));
  for (let y = 0; y < height; y++)
    lines.set(rgba.subarray(y * width * 4, (y + 1) * width * 4), y * (width * 4 + 1) + 1);
  return pngOfChunks([
    { name: 'IHDR', data: header },
    { name: 'iCCP', data: iccp },
    { name: 'IDAT', data: deflateSync(lines, { level: 1 }) },
    { name: 'IEND', data: new Uint8Array() },
  ]);
}
