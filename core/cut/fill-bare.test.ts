import { describe, expect, it } from 'vitest';
import { raster } from '../image/index.ts';
import { fillBare } from './fill-bare.ts';

/** Stripes of 4 px, clear in a notch; a px at the notch's border is half there. */
function wall() {
  const image = raster(120, 80, 'straight');
  for (let y = 0; y < 80; y++)
    for (let x = 0; x < 120; x++) {
      const notch = x >= 50 && x < 70 && y >= 30 && y < 60;
      const tone = Math.floor(x / 4) % 2 === 0 ? 40 : 200;
      image.data.set([tone, 90, 255 - tone, notch ? (x === 50 ? 128 : 0) : 255], (y * 120 + x) * 4);
    }
  return image;
}
const notch = { x0: 48, y0: 28, x1: 72, y1: 62 };

describe('filling what is bare', () => {
  it('makes it opaque in the colours round about, and touches nothing else', () => {
    const image = wall();
    const filled = fillBare(image, [notch])!;
    let inside = 0;
    for (let at = 0; at < 120 * 80; at++) {
      const was = [...image.data.subarray(at * 4, at * 4 + 4)];
      const is = [...filled.data.subarray(at * 4, at * 4 + 4)];
      if (was[3] === 255) expect(is).toEqual(was);
      else {
        inside += 1;
        expect(is[3]).toBe(255);
        // Only the two tones are round about; what is mixed of them lies between.
        expect(is[0]).toBeGreaterThanOrEqual(40);
        expect(is[0]).toBeLessThanOrEqual(200);
      }
    }
    expect(inside).toBe(20 * 30);
    expect(fillBare(filled, [notch])).toBeNull();
    expect(fillBare(image, [])).toBeNull();
  });

  it('keeps the share of what was painted thinly', () => {
    const image = wall();
    const at = (45 * 120 + 50) * 4;
    const filled = fillBare(image, [notch])!;
    // Half of it is its own blue of 55 or 215, the other half of a tone between them.
    const own = image.data[at + 2]!;
    expect(filled.data[at + 2]).toBeGreaterThanOrEqual(Math.floor((own + 55) / 2));
    expect(filled.data[at + 2]).toBeLessThanOrEqual(Math.ceil((own + 215) / 2));
  });
});
