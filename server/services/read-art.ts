import type { ArtFault, NotKept } from '@keen-ridge/core/art';
import { isZip, readOpenRaster } from '@keen-ridge/core/art/openraster';
import { isPng, type PngHeader, readPngHeader } from '@keen-ridge/core/art/png';
import { type ArtRef, LIMITS, type PaintedLayer } from '@keen-ridge/core/document';
import { cutEdges, paintedBox, raster } from '@keen-ridge/core/image';
import { fail, ok, type Result } from '@keen-ridge/core/units';
import sharp from 'sharp';
import { artIdOf } from '../storage/art-store.ts';

export interface ReadLayer extends PaintedLayer {
  readonly png: Uint8Array;
}

export interface ReadArt {
  /** On top first. */
  readonly layers: readonly ReadLayer[];
  readonly notKept: readonly NotKept[];
}

/** Pixels of the largest image that is opened: 24 000 × 16 000. */
const LARGEST_PIXELS = 384_000_000;

/** Reads a file that an artist brought, whatever it is called, by what its bytes are. */
export async function readArtFile(fileName: string, bytes: Uint8Array): Promise<Result<ReadArt, ArtFault>> {
  if (isPng(bytes)) return readPngFile(fileName, bytes);
  if (isZip(bytes)) return readOpenRasterFile(bytes);
  return fail({ code: 'not-this-format', detail: 'it is neither a PNG nor an OpenRaster file' });
}

async function readPngFile(fileName: string, bytes: Uint8Array): Promise<Result<ReadArt, ArtFault>> {
  const name =
    fileName
      .replace(/^.*[/\\]/, '')
      .replace(/\.png$/i, '')
      .trim() || 'Untitled';
  const image = await readImage(name, bytes);
  if (!image.ok) return image;
  const { art, png, notKept } = image.value;
  const size = { paintingWidthPx: art.widthPx, paintingHeightPx: art.heightPx };
  return ok({ layers: [{ name, art, png, xPx: 0, yPx: 0, opacity: 1, hidden: false, ...size }], notKept });
}

async function readOpenRasterFile(bytes: Uint8Array): Promise<Result<ReadArt, ArtFault>> {
  const file = readOpenRaster(bytes);
  if (!file.ok) return file;
  const { widthPx: paintingWidthPx, heightPx: paintingHeightPx } = file.value;
  const layers: ReadLayer[] = [];
  const notKept = [...file.value.notKept];
  for (const { name, xPx, yPx, opacity, hidden, png } of file.value.layers) {
    const image = await readImage(name, png);
    if (!image.ok) return fail({ ...image.error, detail: `layer “${name}”: ${image.error.detail}` });
    notKept.push(...image.value.notKept);
    if (!image.value.art.painted) {
      notKept.push({ code: 'empty-layer', layer: name, detail: '' });
      continue;
    }
    const { art, png: kept } = image.value;
    layers.push({ name, art, png: kept, xPx, yPx, opacity, hidden, paintingWidthPx, paintingHeightPx });
  }
  if (layers.length === 0) return fail({ code: 'no-layers', detail: 'all of its layers are empty' });
  return ok({ layers, notKept });
}

interface ReadImage {
  readonly art: ArtRef;
  readonly png: Uint8Array;
  readonly notKept: readonly NotKept[];
}

/** Decodes one PNG, converts an embedded profile to sRGB, and keeps the bytes as they came where nothing changed. */
async function readImage(layer: string, bytes: Uint8Array): Promise<Result<ReadImage, ArtFault>> {
  const header = readPngHeader(bytes);
  if (!header.ok) return header;
  const { widthPx, heightPx } = header.value;
  if (widthPx * heightPx > LARGEST_PIXELS || Math.max(widthPx, heightPx) > LIMITS.artPx.max) {
    return fail({ code: 'too-large', detail: `${widthPx} × ${heightPx} px is more than 384 million pixels` });
  }
  const decoded = await decode(bytes);
  if (!decoded.ok) return decoded;
  const pixels = raster(widthPx, heightPx, 'straight', decoded.value);
  const png = isPlain(header.value) ? bytes : await encodePng(decoded.value, widthPx, heightPx);
  const painted = paintedBox(pixels);
  const art: ArtRef = { id: artIdOf(png), widthPx, heightPx, painted, cutEdges: cutEdges(pixels, painted) };
  return ok({ art, png, notKept: lostIn(header.value, layer) });
}

/** Straight 8-bit sRGB RGBA of any PNG. The reason of a damaged one is the decoder's own. */
export async function decode(bytes: Uint8Array): Promise<Result<Uint8Array, ArtFault>> {
  try {
    const image = sharp(bytes, { limitInputPixels: LARGEST_PIXELS, failOn: 'error' });
    const data = await image.toColourspace('srgb').ensureAlpha().raw({ depth: 'uchar' }).toBuffer();
    return ok(new Uint8Array(data.buffer, data.byteOffset, data.byteLength));
  } catch (error) {
    if (!(error instanceof Error)) throw error;
    return fail({ code: 'damaged', detail: `its pixels cannot be read (${error.message.split('\n')[0]})` });
  }
}

export const encodePng = async (rgba: Uint8Array, width: number, height: number): Promise<Uint8Array> =>
  sharp(rgba, { raw: { width, height, channels: 4 } })
    .png({ compressionLevel: 6 })
    .toBuffer();

const isPlain = (header: PngHeader): boolean =>
  header.bitDepth === 8 &&
  !header.hasProfile &&
  !header.animated &&
  (header.colourType === 2 || header.colourType === 6);

function lostIn(header: PngHeader, layer: string): NotKept[] {
  const lost: NotKept[] = [];
  if (header.bitDepth === 16) lost.push({ code: 'colour-depth', layer, detail: '16 bit' });
  if (header.animated) lost.push({ code: 'animation', layer, detail: '' });
  return lost;
}
