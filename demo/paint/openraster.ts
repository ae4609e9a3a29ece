import { strToU8, type Zippable, zipSync } from 'fflate';
import sharp from 'sharp';
import { type Canvas, PAINTING, toRaster } from './canvas.ts';

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
  const parts: Zippable = { mimetype: [strToU8('image/openraster'), { level: 0 }] };
  const lines: string[] = [];
  const files = await Promise.all(layers.map(({ canvas }) => pngOf(canvas)));
  layers.forEach(({ name, canvas }, i) => {
    const src = `data/${String(i).padStart(2, '0')}.png`;
    parts[src] = [files[i]!, { level: 0 }];
    lines.push(
      `    <layer name="${name}" src="${src}" x="${canvas.x}" y="${canvas.y}" opacity="1.0" visibility="visible" composite-op="svg:src-over"/>`,
    );
  });
  const stack = `<?xml version="1.0" encoding="UTF-8"?>\n<image version="0.0.5" w="${widthPx}" h="${heightPx}">\n  <stack>\n${lines.join('\n')}\n  </stack>\n</image>\n`;
  parts['stack.xml'] = strToU8(stack);
  return zipSync(parts, { mtime: new Date('2024-06-01T19:00:00') });
}

/** A zip of numbered PNGs: the drawings of something that moves. */
export async function zipOfDrawings(stem: string, drawings: readonly Canvas[]): Promise<Uint8Array> {
  const files = await Promise.all(drawings.map(pngOf));
  const parts: Zippable = {};
  files.forEach((bytes, i) => {
    parts[`${stem}_${String(i + 1).padStart(2, '0')}.png`] = [bytes, { level: 0 }];
  });
  return zipSync(parts, { mtime: new Date('2024-06-01T19:00:00') });
}
