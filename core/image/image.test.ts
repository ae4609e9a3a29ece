import { describe, expect, it } from 'vitest';
import { randomImage } from '../testing/index.ts';
import { premultiply, unpremultiplyBytes } from './alpha.ts';
import { cutEdges } from './cut-edges.ts';
import { halve, mipCount, mipLevelFor, mipSizePx } from './mips.ts';
import { paintedBox } from './painted-box.ts';
import { raster } from './raster.ts';
import { buildTileMap, TILE_EMPTY, TILE_MIXED, TILE_OPAQUE } from './tile-map.ts';

function filled(width: number, height: number, alphaAt: (x: number, y: number) => number) {
  const image = raster(width, height, 'straight');
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) image.data.set([200, 100, 50, alphaAt(x, y)], (y * width + x) * 4);
  }
  return image;
}

describe('alpha', () => {
  it('premultiplies to the nearest of 255 for every colour and alpha', () => {
    for (let alpha = 0; alpha < 256; alpha++) {
      const row = raster(256, 1, 'straight');
      for (let c = 0; c < 256; c++) row.data.set([c, c, c, alpha], c * 4);
      const out = premultiply(row);
      for (let c = 0; c < 256; c++) expect(out.data[c * 4]).toBe(Math.round((c * alpha) / 255));
    }
  });

  it('comes back the same after straight and premultiplied again', () => {
    const once = premultiply(randomImage(3, 64, 64));
    const straight = once.data.slice();
    unpremultiplyBytes(straight);
    expect(premultiply(raster(64, 64, 'straight', straight)).data).toEqual(once.data);
  });
});

describe('mips', () => {
  it.each([
    [8, 6],
    [7, 5],
    [9, 4],
    [3, 1],
    [1, 5],
  ])('halves %i × %i as the mean by area of what each pixel covers', (width, height) => {
    const image = premultiply(randomImage(8, width, height));
    const half = halve(image);
    const [across, down] = [Math.ceil(width / 2), Math.ceil(height / 2)];
    expect([half.widthPx, half.heightPx]).toEqual([across, down]);
    // Cells that divide both: each lies in one pixel of either.
    for (let y = 0; y < down; y++)
      for (let x = 0; x < across; x++)
        for (let c = 0; c < 4; c++) {
          let sum = 0;
          for (let v = y * height; v < (y + 1) * height; v++)
            for (let u = x * width; u < (x + 1) * width; u++)
              sum += image.data[(Math.floor(v / down) * width + Math.floor(u / across)) * 4 + c] as number;
          const mean = sum / (width * height);
          expect(Math.abs((half.data[(y * across + x) * 4 + c] as number) - mean)).toBeLessThanOrEqual(0.501);
        }
  });

  it('keeps what is opaque opaque down to the last level, whatever its size', () => {
    let level = premultiply(filled(37, 23, () => 255));
    while (level.widthPx > 1 || level.heightPx > 1) {
      level = halve(level);
      expect(level.data.every((value, i) => i % 4 !== 3 || value === 255)).toBe(true);
    }
  });

  it.each([
    [2, 0],
    [1, 0],
    [0.51, 0],
    [0.5, 1],
    [0.26, 1],
    [0.25, 2],
    [0, 8],
  ])('samples a scale of %d at level %i', (scale, level) => {
    expect(mipLevelFor(scale, mipCount(200, 50))).toBe(level);
  });

  it('ends at one pixel', () => {
    expect(mipSizePx(200, mipCount(200, 50) - 1)).toBe(1);
    expect(mipCount(1, 1)).toBe(1);
  });
});

describe('facts about art', () => {
  it('finds the paint, not the specks', () => {
    const image = filled(40, 30, (x, y) => (x >= 5 && x < 9 && y >= 7 && y < 20 ? 255 : x === 39 ? 3 : 0));
    expect(paintedBox(image)).toEqual({ x0: 5, y0: 7, x1: 9, y1: 20 });
    expect(paintedBox(filled(4, 4, () => 0))).toBeNull();
  });

  it('tells a cut edge from a tight crop', () => {
    const hill = filled(100, 60, (x, y) => (y > 30 + 20 * Math.sin(x / 30) ? 255 : 0));
    expect(cutEdges(hill, paintedBox(hill))).toEqual({ left: true, right: true, top: false, bottom: true });
    const ball = filled(61, 61, (x, y) => (Math.hypot(x - 30, y - 30) <= 30 ? 255 : 0));
    expect(cutEdges(ball, paintedBox(ball))).toEqual({
      left: false,
      right: false,
      top: false,
      bottom: false,
    });
  });

  it('maps tiles as empty, mixed or opaque', () => {
    const image = filled(96, 32, (x) => (x < 32 ? 0 : x < 64 ? 255 : x % 2 ? 255 : 0));
    expect([...buildTileMap(image).kinds]).toEqual([TILE_EMPTY, TILE_OPAQUE, TILE_MIXED]);
  });
});
