import { DEPTH_WHITE, MOTION_STEPS, MOTION_STILL } from '@keen-ridge/core/export';
import sharp from 'sharp';

/** What red, green and blue of a stored pass (0 to 65 535) are as numbers. */
export type PassNumbers = (value: number, channel: number) => number;

/** Distance from the camera, spx, in all three channels. */
export const depthNumbers =
  (farSpx: number): PassNumbers =>
  (value) =>
    (value / DEPTH_WHITE) * farSpx;

/** Output px to the right in red, down in green; blue is 1 where the plane is. */
export const motionNumbers: PassNumbers = (value, channel) =>
  channel === 2 ? value / DEPTH_WHITE : (value - MOTION_STILL) / MOTION_STEPS;

/** A pass of numbers as OpenEXR of 16- or 32-bit floats; A is 1. `png` as the pass is stored, in 16 bits. */
export async function exrOfPass(
  png: Uint8Array,
  numbers: PassNumbers,
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
      const from = (y * width + x) * channels;
      // A pass may be stored as grey, which then stands for all three.
      for (let c = 0; c < 3; c++) pixels[to + c] = numbers(values[from + (channels < 3 ? 0 : c)]!, c);
      pixels[to + 3] = 1;
    }
  // Read when a first pass is written: a server that starts, and a worker that draws, do without.
  const { DataTexture, FloatType, HalfFloatType, RGBAFormat } = await import('three');
  const { EXRExporter, ZIP_COMPRESSION } = await import('three/examples/jsm/exporters/EXRExporter.js');
  const texture = new DataTexture(pixels, width, height, RGBAFormat, FloatType);
  return new EXRExporter().parse(texture, {
    type: bits === 'half' ? HalfFloatType : FloatType,
    compression: ZIP_COMPRESSION,
  });
}
