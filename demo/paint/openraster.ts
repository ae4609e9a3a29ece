import { OPEN_RASTER, openRasterStack } from '@keen-ridge/core/export/openraster';
import { strToU8, type Zippable, zipSync } from 'fflate';
import sharp from 'sharp';
import { type Canvas, PAINTING, toRaster } from './canvas.ts';

const PAINTED_AT = new Date('2024-06-01T19:00:00');

export interface PaintedLayer {
  readonly name: string;
  readonly canvas: Canvas;
}

/** A canvas as PNG. */
export const pngOf = (canvas: Canvas): Promise<Uint8Array> =>
  sharp(toRaster(canvas).data, { raw: { width: canvas.width, height: canvas.height, channels: 4 } })
    .png({ compressionLevel: 6 })
    .toBuffer();

/** An OpenRaster file (version 0.0.5) of the layers, given on top first. */
export async function toOpenRaster(
  layers: readonly PaintedLayer[],
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number } = PAINTING,
): Promise<Uint8Array> {
  const files = await Promise.all(layers.map(({ canvas }) => pngOf(canvas)));
  const { mimetype, stack, layer } = OPEN_RASTER;
  const listed = layers.map(({ name, canvas: { x: xPx, y: yPx } }, i) => ({
    name,
    src: layer(i),
    xPx,
    yPx,
    opacity: 1,
  }));
  const parts: Zippable = {
    [mimetype.name]: [strToU8(mimetype.text), { level: 0 }],
    [stack]: strToU8(openRasterStack(listed, { widthPx, heightPx })),
  };
  files.forEach((png, i) => {
    parts[layer(i)] = [png, { level: 0 }];
  });
  return zipSync(parts, { mtime: PAINTED_AT.getTime() });
}

/** A zip of numbered PNGs: the drawings of something that moves. */
export async function zipOfDrawings(stem: string, drawings: readonly Canvas[]): Promise<Uint8Array> {
  const files = await Promise.all(drawings.map(pngOf));
  const parts: Zippable = {};
  files.forEach((bytes, i) => {
    parts[`${stem}_${String(i + 1).padStart(2, '0')}.png`] = [bytes, { level: 0 }];
  });
  return zipSync(parts, { mtime: PAINTED_AT });
}
