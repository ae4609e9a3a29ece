import type { Rendered } from '@keen-ridge/core/kernel';
import sharp from 'sharp';

/** Past 3 zlib wins one part in fifty and takes a quarter longer, on painted frames. */
const COMPRESSION_LEVEL = 3;
/** Names how frames are packed: frames that another one packed are not the same bytes. */
export const PACKED_AS = `png${COMPRESSION_LEVEL}`;

/** A frame as PNG: 8 or 16 bit as it was rendered, without alpha where everything is opaque by `ground`. */
export function pngOfFrame({ widthPx: width, heightPx: height, data, format }: Rendered, isOpaque: boolean) {
  const raw = sharp(data, { raw: { width, height, channels: 4 }, limitInputPixels: false });
  const kept = isOpaque ? raw.removeAlpha() : raw;
  const wide = format === 'straight16' ? kept.toColourspace('rgb16') : kept;
  return wide.png({ compressionLevel: COMPRESSION_LEVEL, adaptiveFiltering: false }).toBuffer();
}

/** 8-bit RGBA of a stored frame, straight. */
export const rgbaOfPng = async (png: Uint8Array): Promise<Uint8Array> =>
  sharp(png, { limitInputPixels: false }).ensureAlpha().raw().toBuffer();
