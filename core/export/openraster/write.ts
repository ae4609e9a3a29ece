import { strToU8, type Zippable, zipSync } from 'fflate';

/** One layer: a PNG and where it lies. */
export interface OpenRasterLayer {
  readonly name: string;
  readonly png: Uint8Array;
  readonly xPx: number;
  readonly yPx: number;
  /** 0 to 1. */
  readonly opacity: number;
}

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? c);

/**
 * An OpenRaster file (OpenRaster specification 0.0.5, file layout and layer stack) of layers given on top first.
 * `madeAtMs`: milliseconds since 1970. `merged` is the picture of all of them, `thumbnail` a PNG of at most 256 px; both are left out when they are null.
 */
export function writeOpenRaster(
  layers: readonly OpenRasterLayer[],
  size: { readonly widthPx: number; readonly heightPx: number },
  madeAtMs: number,
  { merged, thumbnail }: { readonly merged: Uint8Array | null; readonly thumbnail: Uint8Array | null } = {
    merged: null,
    thumbnail: null,
  },
): Uint8Array {
  // The mimetype comes first and is stored, so that it lies at a fixed place of the file.
  const parts: Zippable = { mimetype: [strToU8('image/openraster'), { level: 0 }] };
  const lines = layers.map(({ name, png, xPx, yPx, opacity }, i) => {
    const src = `data/${String(i).padStart(2, '0')}.png`;
    parts[src] = [png, { level: 0 }];
    return `    <layer name="${escaped(name)}" src="${src}" x="${xPx}" y="${yPx}" opacity="${opacity}" visibility="visible" composite-op="svg:src-over"/>`;
  });
  const stack = `<?xml version="1.0" encoding="UTF-8"?>\n<image version="0.0.5" w="${size.widthPx}" h="${size.heightPx}">\n  <stack>\n${lines.join('\n')}\n  </stack>\n</image>\n`;
  parts['stack.xml'] = strToU8(stack);
  if (merged) parts['mergedimage.png'] = [merged, { level: 0 }];
  if (thumbnail) parts['Thumbnails/thumbnail.png'] = [thumbnail, { level: 0 }];
  return zipSync(parts, { mtime: madeAtMs });
}
