import { describe, expect, it } from 'vitest';
import { seededRandom } from '../units/index.ts';
import { type Raster, raster } from './raster.ts';
import { closeSeam, fadeWidth, measureSeam } from './seam.ts';

/** An opaque picture of greys. */
function grey(
  widthPx: number,
  heightPx: number,
  valueAt: (x: number, y: number) => number,
): Raster<'straight'> {
  const image = raster(widthPx, heightPx, 'straight');
  for (let y = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++) {
      const value = Math.round(valueAt(x, y));
      image.data.set([value, value, value, 255], (y * widthPx + x) * 4);
    }
  return image;
}

describe('the seam of a tiled image', () => {
  it('is measured across the edges that meet, as worked by hand', () => {
    // 0, 10, …, 150 from left to right: 150 at the seam, 10 inside; alpha does not differ, so three channels of four.
    const ramp = grey(16, 5, (x) => 10 * x);
    expect(measureSeam(ramp, 'across')).toEqual({ step: 112.5, inside: 7.5, worstAt: 0, visible: true });
    expect(measureSeam(ramp, 'down')).toMatchObject({ step: 0, visible: false });
  });

  it('is not seen where the paint is as rough anyway, or meets itself', () => {
    const random = seededRandom(3);
    expect(
      measureSeam(
        grey(64, 64, () => random() * 255),
        'across',
      ).visible,
    ).toBe(false);
    const wave = grey(64, 8, (x) => 128 + 100 * Math.sin((x / 64) * 2 * Math.PI));
    expect(measureSeam(wave, 'across').visible).toBe(false);
  });

  it('says where it is worst', () => {
    const dotted = grey(20, 30, (x, y) => (x === 0 && y === 17 ? 200 : 40));
    expect(measureSeam(dotted, 'across').worstAt).toBe(17);
  });

  it('counts clear paint as clear, whatever colour lies under it', () => {
    const clear = raster(16, 4, 'straight');
    for (let i = 0; i < 64; i++) clear.data.set([i * 3, 255 - i, i, 0], i * 4);
    expect(measureSeam(clear, 'across')).toMatchObject({ step: 0, visible: false });
  });
});

describe('closing a seam', () => {
  it.each(['across', 'down'] as const)(
    'leaves none to be seen, %s, and what is past the fade untouched',
    (axis) => {
      const ramp = grey(160, 160, (x, y) => (axis === 'across' ? x : y));
      const closed = closeSeam(ramp, axis, 32);
      expect([closed.widthPx, closed.heightPx]).toEqual(axis === 'across' ? [128, 160] : [160, 128]);
      expect(measureSeam(ramp, axis).visible).toBe(true);
      expect(measureSeam(closed, axis).visible).toBe(false);
      const at = (x: number, y: number) => closed.data[(y * closed.widthPx + x) * 4];
      expect(axis === 'across' ? at(100, 7) : at(7, 100)).toBe(100);
      // Just inside the edge it is nearly the px that lay past the new end: 128, one part in 64 of the first.
      expect(at(0, 0)).toBe(Math.round(128 * (1 - 0.5 / 32)));
    },
  );

  it('fades colours by their coverage: clear paint brings no colour of its own', () => {
    const image = raster(64, 1, 'straight');
    for (let x = 0; x < 64; x++) image.data.set(x < 32 ? [0, 255, 0, 0] : [200, 0, 0, 255], x * 4);
    const closed = closeSeam(image, 'across', 32);
    expect([...closed.data.subarray(0, 4)]).toEqual([200, 0, 0, 251]);
  });

  it('chooses a width that leaves a size that halves well, or none', () => {
    expect(fadeWidth(4001, 200)).toBe(225);
    expect((4001 - 225) % 32).toBe(0);
    expect(fadeWidth(40, 30)).toBeNull();
  });
});
