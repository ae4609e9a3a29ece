import type { Affine } from '@keen-ridge/core/geometry';
import type { Raster } from '@keen-ridge/core/image';
import { type DrawArt, SIDE } from '@keen-ridge/core/testing';
import { chromium } from '@playwright/test';
import sharp from 'sharp';
import { launchOptions } from '../../scripts/lib/chromium.mjs';

/** Reduction by Lanczos in sharp (libvips). It knows whole px alone: where the art lies between them is rounded. */
export const lanczosDrawer: DrawArt = async (art, { a, d, e, f }) => {
  const [width, height] = [Math.round(art.widthPx * a), Math.round(art.heightPx * d)];
  const raw = { width: art.widthPx, height: art.heightPx, channels: 4 as const };
  const { data } = await sharp(art.data, { raw })
    .resize(width, height, { kernel: 'lanczos3', fit: 'fill' })
    .raw()
    .toBuffer({ resolveWithObject: true });
  return placed(data, width, height, Math.round(e), Math.round(f));
};

function placed(data: Uint8Array, width: number, height: number, left: number, top: number) {
  const out = new Uint8Array(SIDE * SIDE * 4);
  for (let y = Math.max(0, top); y < Math.min(SIDE, top + height); y++)
    for (let x = Math.max(0, left); x < Math.min(SIDE, left + width); x++) {
      const from = ((y - top) * width + x - left) * 4;
      out.set(data.subarray(from, from + 4), (y * SIDE + x) * 4);
    }
  return { data: out, whole: 255 as const };
}

/** Bytes as text that a page can be given. */
const asText = (bytes: Uint8Array | Uint8ClampedArray): string =>
  Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString('base64');

interface CanvasDrawer {
  readonly draw: DrawArt;
  readonly close: () => Promise<void>;
}

/** Chromium's 2D canvas, drawImage at high or low smoothing. */
export async function canvasDrawer(quality: 'high' | 'low'): Promise<CanvasDrawer> {
  const browser = await chromium.launch(launchOptions);
  const page = await browser.newPage();
  await page.addInitScript('globalThis.__name = (named) => named');
  await page.goto('about:blank');
  const known = new Map<object, number>();
  const keep = async (art: Raster): Promise<number> => {
    const n = known.get(art);
    if (n !== undefined) return n;
    known.set(art, known.size);
    await page.evaluate(
      ({ text, width, height }) => {
        const bytes = Uint8ClampedArray.from(atob(text), (c) => c.charCodeAt(0));
        const canvas = new OffscreenCanvas(width, height);
        canvas.getContext('2d')?.putImageData(new ImageData(bytes, width, height), 0, 0);
        const held = globalThis as unknown as { arts?: OffscreenCanvas[] };
        held.arts ??= [];
        held.arts.push(canvas);
      },
      { text: asText(art.data), width: art.widthPx, height: art.heightPx },
    );
    return known.size - 1;
  };
  const draw: DrawArt = async (art, { a, b, c, d, e, f }: Affine) => {
    const n = await keep(art);
    const text = await page.evaluate(
      ({ n, map, side, quality }) => {
        const canvas = new OffscreenCanvas(side, side);
        const context = canvas.getContext('2d');
        const art = (globalThis as unknown as { arts?: OffscreenCanvas[] }).arts?.[n];
        if (!context || !art) throw new Error('No canvas');
        context.imageSmoothingQuality = quality;
        context.setTransform(map[0], map[1], map[2], map[3], map[4], map[5]);
        context.drawImage(art, 0, 0);
        const { data } = context.getImageData(0, 0, side, side);
        let out = '';
        for (let i = 0; i < data.length; i += 8192) out += String.fromCharCode(...data.subarray(i, i + 8192));
        return btoa(out);
      },
      { n, map: [a, b, c, d, e, f] as const, side: SIDE, quality },
    );
    return { data: new Uint8Array(Buffer.from(text, 'base64')), whole: 255 };
  };
  return { draw, close: () => browser.close() };
}
