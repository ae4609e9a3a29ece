import type { ArtFault, ArtFileKind, NotKept } from '@keen-ridge/core/art';
import { readPngHeader } from '@keen-ridge/core/art/png';
import { tiffAlpha } from '@keen-ridge/core/art/tiff';
import { mayBePremultiplied, type Raster, unpremultiplied } from '@keen-ridge/core/image';
import { ok, type Result } from '@keen-ridge/core/units';
import sharp from 'sharp';
import { notKeptSentence } from './art-words.ts';
import {
  decodeDeep,
  decodePixels,
  decoderFault,
  isPlainPng,
  LARGEST_PIXELS,
  tooLarge,
  tooLargeFault,
} from './decode.ts';
import { keepImage } from './keep-image.ts';
import { paintingOfOne } from './one-layer.ts';
import { type ReadOptions, type ReadResult, stemOf } from './read-options.ts';

/** A file of one picture becomes a painting of one layer. */
export async function readStill(
  fileName: string,
  kind: ArtFileKind,
  bytes: Uint8Array,
  { sink }: ReadOptions,
): Promise<ReadResult> {
  const name = stemOf(fileName);
  const facts = await sizeOf(kind, bytes);
  if (!facts.ok) return facts;
  if (tooLarge(facts.value.widthPx, facts.value.heightPx))
    return tooLargeFault(facts.value.widthPx, facts.value.heightPx);
  const decoded = await decodePixels(bytes);
  if (!decoded.ok) return decoded;
  const { image, unsure } = settleAlpha(kind, bytes, decoded.value);
  const { bits } = facts.value;
  // What had to be divided by its alpha was so in 8 bits.
  const isDeep = bits > 8 && image === decoded.value;
  const deep = isDeep ? await decodeDeep(bytes) : null;
  if (deep && !deep.ok) return deep;
  const plain = isPlainPng(bytes, deep ? 16 : 8) ? bytes : null;
  const kept = await keepImage(image, plain, sink, deep?.value ?? null);
  const notKept: NotKept[] =
    bits > (deep ? 16 : 8)
      ? [{ code: deep ? 'deep-colour' : 'colour-depth', layer: name, detail: `${bits} bit` }]
      : [];
  return ok([paintingOfOne(fileName, kept, { notKept: notKept.map(notKeptSentence), alphaUnsure: unsure })]);
}

interface SizeFacts {
  readonly widthPx: number;
  readonly heightPx: number;
  readonly bits: number;
}

const BITS: Readonly<Record<string, number>> = {
  ushort: 16,
  short: 16,
  uint: 32,
  int: 32,
  float: 32,
  double: 64,
};

/** Size and depth from the header, before any pixel is unpacked. */
async function sizeOf(kind: ArtFileKind, bytes: Uint8Array): Promise<Result<SizeFacts, ArtFault>> {
  if (kind === 'png') {
    const header = readPngHeader(bytes);
    return header.ok ? ok({ ...header.value, bits: header.value.bitDepth }) : header;
  }
  try {
    const { width, height, depth } = await sharp(bytes, { limitInputPixels: LARGEST_PIXELS }).metadata();
    return ok({ widthPx: width, heightPx: height, bits: BITS[depth] ?? 8 });
  } catch (error) {
    return decoderFault(error);
  }
}

/**
 * PNG, WebP and GIF hold straight alpha by their specifications; a TIFF says which in a tag. Files that were written
 * against that are only suspected: the artist decides.
 */
function settleAlpha(
  kind: ArtFileKind,
  bytes: Uint8Array,
  image: Raster<'straight'>,
): { image: Raster<'straight'>; unsure: boolean } {
  const said = kind === 'tiff' ? tiffAlpha(bytes) : null;
  if (said === 'premultiplied') return { image: unpremultiplied(image), unsure: false };
  if (said === 'straight' || kind === 'jpeg') return { image, unsure: false };
  return { image, unsure: mayBePremultiplied(image) };
}
