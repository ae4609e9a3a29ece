import type { BlendMode } from '../../paint/index.ts';

/** One layer of a file that is written: where its PNG lies in it, and where it stands. */
export interface OpenRasterLayer {
  readonly name: string;
  readonly src: string;
  readonly xPx: number;
  readonly yPx: number;
  /** 0 to 1. */
  readonly opacity: number;
  /** As paint where nothing is said. */
  readonly mode?: BlendMode;
}

/**
 * Parts of a file in the order in which they are written (OpenRaster specification 0.0.5, file layout): the mimetype
 * first and stored as it is, so that it lies at a fixed place.
 */
export const OPEN_RASTER = {
  mimetype: { name: 'mimetype', text: 'image/openraster' },
  stack: 'stack.xml',
  merged: 'mergedimage.png',
  thumbnail: 'Thumbnails/thumbnail.png',
  layer: (index: number): string => `data/${String(index).padStart(2, '0')}.png`,
} as const;

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? c);

/** composite-op of OpenRaster 0.0.5. Exclusion is not among them: readers that do not know it lay it over as paint. */
const operatorOf = (mode: BlendMode = 'paint'): string =>
  mode === 'paint' ? 'svg:src-over' : mode === 'plus-lighter' ? 'svg:plus' : `svg:${mode}`;

/** stack.xml of layers given on top first. */
export function openRasterStack(
  layers: readonly OpenRasterLayer[],
  { widthPx, heightPx }: { readonly widthPx: number; readonly heightPx: number },
): string {
  const lines = layers.map(
    ({ name, src, xPx, yPx, opacity, mode }) =>
      `    <layer name="${escaped(name)}" src="${src}" x="${xPx}" y="${yPx}" opacity="${opacity}" visibility="visible" composite-op="${operatorOf(mode)}"/>`,
  );
  return `<?xml version="1.0" encoding="UTF-8"?>\n<image version="0.0.5" w="${widthPx}" h="${heightPx}">\n  <stack>\n${lines.join('\n')}\n  </stack>\n</image>\n`;
}
