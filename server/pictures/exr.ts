import { DEPTH_WHITE } from '@keen-ridge/core/export';
import sharp from 'sharp';
import { DataTexture, FloatType, HalfFloatType, RGBAFormat } from 'three';
import { EXRExporter, ZIP_COMPRESSION } from 'three/examples/jsm/exporters/EXRExporter.js';

/**
 * A depth pass as OpenEXR: in R, G and B the distance from the camera, spx, as 16- or 32-bit floats; A is 1. `png` as the
 * pass is stored, in 16 bits.
 */
export async function exrOfDepth(
  png: Uint8Array,
  farSpx: number,
  bits: 'half' | 'float',
): Promise<Uint8Array> {
  const { data, info } = await sharp(png, { limitInputPixels: false })
    .toColourspace('rgb16')
    .raw({ depth: 'ushort' })
    .toBuffer({ resolveWithObject: true });
  const values = new Uint16Array(data.buffer, data.byteOffset, data.byteLength / 2);
  const { width, height, channels } = info;
  const pixels = new Float32Array(4 * width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      // Textures begin at the bottom, and so does what the exporter reads.
      const to = 4 * ((height - 1 - y) * width + x);
      const distance = (values[(y * width + x) * channels]! / DEPTH_WHITE) * farSpx;
      pixels[to] = distance;
      pixels[to + 1] = distance;
      pixels[to + 2] = distance;
      pixels[to + 3] = 1;
    }
  const texture = new DataTexture(pixels, width, height, RGBAFormat, FloatType);
  return new EXRExporter().parse(texture, {
    type: bits === 'half' ? HalfFloatType : FloatType,
    compression: ZIP_COMPRESSION,
  });
}
