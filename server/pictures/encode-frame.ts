import type { Rendered } from '@keen-ridge/core/kernel';
import sharp, { type Sharp } from 'sharp';

/** Past 3 zlib wins one part in fifty and takes a quarter longer, on painted frames. */
const COMPRESSION_LEVEL = 3;
/** Names how frames are packed: frames that another one packed are not the same bytes. */
export const PACKED_AS = `png${COMPRESSION_LEVEL}`;

/** One number a px. */
export type Grey =
  | {
      readonly format: 'grey8';
      readonly widthPx: number;
      readonly heightPx: number;
      readonly data: Uint8Array;
    }
  | {
      readonly format: 'grey16';
      readonly widthPx: number;
      readonly heightPx: number;
      readonly data: Uint16Array;
    };

/** What leaves as a PNG: a picture, or a pass of one number a px. */
export type Drawn = Rendered | Grey;

/** A frame as PNG: 8 or 16 bit as it was rendered, without alpha where everything is opaque. */
export function pngOfFrame({ widthPx: width, heightPx: height, data, format }: Drawn, isOpaque: boolean) {
  if (format === 'grey8' || format === 'grey16') {
    const grey = sharp(data, { raw: { width, height, channels: 1 }, limitInputPixels: false });
    return packed(grey.toColourspace(format === 'grey8' ? 'b-w' : 'grey16'));
  }
  const raw = sharp(data, { raw: { width, height, channels: 4 }, limitInputPixels: false });
  const kept = isOpaque ? raw.removeAlpha() : raw;
  const wide = format === 'straight16' ? kept.toColourspace('rgb16') : kept;
  return packed(wide);
}

const packed = (image: Sharp): Promise<Buffer> =>
  image.png({ compressionLevel: COMPRESSION_LEVEL, adaptiveFiltering: false }).toBuffer();

/** 8-bit RGBA of a stored frame, straight. */
export const rgbaOfPng = async (png: Uint8Array): Promise<Uint8Array> =>
  sharp(png, { limitInputPixels: false }).ensureAlpha().raw().toBuffer();
