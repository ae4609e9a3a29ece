import { describe, expect, it } from 'vitest';
import { likenessOf, mayBePremultiplied, raster, unpremultiplied } from '../image/index.ts';

import { mergeImages, unionBox } from './merge.ts';

const one = (...rgba: number[]) => raster(1, 1, 'straight', Uint8Array.from(rgba));
const place = (image: ReturnType<typeof one>, opacity = 1, xPx = 0, yPx = 0) => ({
  image,
  opacity,
  xPx,
  yPx,
});

describe('merging', () => {
  it('is source-over as W3C Compositing and Blending Level 1 (section 5.1) works it', () => {
    // αo = αs + αb·(1 − αs), co = (cs·αs + cb·αb·(1 − αs))/αo, for αs = 0.5·0.8, αb = 0.6.
    const merged = mergeImages([place(one(100, 0, 200, 153)), place(one(20, 240, 60, 204), 0.5)], {
      x0: 0,
      y0: 0,
      x1: 1,
      y1: 1,
    });
    const alpha = 0.4 + 0.6 * 0.6;
    const expected = [20 * 0.4 + 100 * 0.36, 240 * 0.4, 60 * 0.4 + 200 * 0.36].map((v) => v / alpha);
    expected.forEach((value, c) => {
      expect(merged.data[c]).toBe(Math.round(value));
    });
    expect(merged.data[3]).toBe(Math.round(alpha * 255));
  });

  it('keeps places, negative ones too, and clear pixels clear', () => {
    const images = [place(one(1, 2, 3, 255), 1, -2, 4), place(one(9, 8, 7, 255), 1, 1, 5)];
    const box = unionBox(images);
    expect(box).toEqual({ x0: -2, y0: 4, x1: 2, y1: 6 });
    const merged = mergeImages(images, box ?? { x0: 0, y0: 0, x1: 0, y1: 0 });
    expect([...merged.data.subarray(0, 4)]).toEqual([1, 2, 3, 255]);
    expect([...merged.data.subarray(28, 32)]).toEqual([9, 8, 7, 255]);
    expect(merged.data.filter((v) => v > 0)).toHaveLength(8);
    expect(unionBox([])).toBeNull();
  });
});

describe('premultiplied pixels', () => {
  it('come back to what they were', () => {
    const straight = raster(2, 1, 'straight', Uint8Array.from([200, 100, 50, 128, 255, 0, 7, 255]));
    const multiplied = raster(2, 1, 'straight', Uint8Array.from([100, 50, 25, 128, 255, 0, 7, 255]));
    const back = unpremultiplied(multiplied);
    straight.data.forEach((value, i) => {
      expect(Math.abs(value - (back.data[i] as number))).toBeLessThanOrEqual(1);
    });
  });

  it('are suspected only where soft pixels are near their alpha and none is above it', () => {
    expect(mayBePremultiplied(one(100, 50, 25, 128))).toBe(true);
    expect(mayBePremultiplied(one(200, 50, 25, 128))).toBe(false);
    expect(mayBePremultiplied(one(3, 2, 1, 128))).toBe(false);
    expect(mayBePremultiplied(one(255, 255, 255, 255))).toBe(false);
  });
});

describe('looks', () => {
  it('are nearly the same for the same paint cropped otherwise, and far from another', () => {
    const hill = (width: number, height: number, left: number, tone: number) => {
      const image = raster(width, height, 'straight');
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++)
          if (x >= left && x < left + 80 && y > 40 - (x - left) / 3 && y < 70)
            image.data.set([tone, 90, 255 - tone, 255], (y * width + x) * 4);
      return image;
    };
    const box = (left: number) => ({ x0: left, y0: 14, x1: left + 80, y1: 70 });
    const apart = (p: number[], q: number[]) =>
      p.reduce((s, v, i) => s + Math.abs(v - (q[i] as number)), 0) / 256;
    const look = likenessOf(hill(100, 80, 5, 60), box(5));
    expect(look).toHaveLength(256);
    expect(apart(look, likenessOf(hill(300, 90, 150, 64), box(150)))).toBeLessThan(5);
    expect(apart(look, likenessOf(hill(100, 80, 5, 220), box(5)))).toBeGreaterThan(26);
  });
});
