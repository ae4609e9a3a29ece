import type { Background, RenderLayer } from './layers.ts';
import type { ImageLayout } from './stored-image.ts';

/** Bytes of one entry; assembly/layer.ts reads what encodeLayers writes. */
export const LAYER_BYTES = 128;
const CULL_TILE_PX = 32;

export interface ImageAddress {
  readonly address: number;
  readonly layout: ImageLayout;
}

/**
 * The layer table for the kernel, far to near. Layers whose image is not there (still loading) are left out.
 * The map is shifted so that it takes integer pixel indices to texels of the bordered level:
 * centre of pixel +½, centre of texel −½, border +1.
 */
export function encodeLayers(
  layers: readonly RenderLayer[],
  imageOf: (artId: string) => ImageAddress | undefined,
): Uint8Array {
  const stored = layers.flatMap((layer) => {
    const image = imageOf(layer.artId);
    return image ? [{ layer, image }] : [];
  });
  const table = new DataView(new ArrayBuffer(stored.length * LAYER_BYTES));
  stored.forEach(({ layer, image }, i) => {
    writeEntry(table, i * LAYER_BYTES, layer, image);
  });
  return new Uint8Array(table.buffer);
}

function writeEntry(table: DataView, at: number, layer: RenderLayer, image: ImageAddress): void {
  const level = image.layout.levels[layer.level];
  if (!level) throw new Error(`No level ${layer.level} of art ${layer.artId}`);
  const { a, b, c, d, e, f } = layer.imageToLevel;
  const numbers = [a, b, c, d, e + 0.5 * (a + c) + 0.5, f + 0.5 * (b + d) + 0.5];
  numbers.forEach((value, i) => {
    table.setFloat64(at + 8 * i, value, true);
  });
  const isRolled = b !== 0 || c !== 0;
  const words = [
    image.address + level.pixelsAt,
    level.strideBytes,
    level.widthPx,
    level.heightPx,
    image.address + level.tilesAt,
    level.tileColumns,
    Math.round(Math.min(1, layer.opacity) * 32768),
    isRolled ? 1 : 0,
  ];
  words.forEach((value, i) => {
    table.setUint32(at + 48 + 4 * i, value, true);
  });
}

/** Bytes of scratch that one call of renderRows needs for `layers` layers and rows of `widthPx`. */
export function scratchBytes(widthPx: number, layers: number): number {
  const columns = Math.ceil(widthPx / CULL_TILE_PX);
  const row = widthPx * 24 + columns * 4 + 512;
  const perLayer = columns * 9 + widthPx * 12 + 128;
  return row + layers * perLayer;
}

/** First byte lowest, as the kernel takes it. */
export const packBackground = ({ r, g, b, a }: Background): number =>
  (r | (g << 8) | (b << 16) | (a << 24)) >>> 0;
