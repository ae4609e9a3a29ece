import { describe, expect, it } from 'vitest';
import { spreadUnderClear } from './spread-colour.ts';

const [W, H] = [12, 8];
const at = (rgba: Uint8Array, x: number, y: number) => [
  ...rgba.subarray((y * W + x) * 4, (y * W + x) * 4 + 4),
];

describe('colour under clear pixels', () => {
  it('is that of the paint beside them, four px outward, and no alpha changes', () => {
    const rgba = new Uint8Array(W * H * 4);
    for (let y = 0; y < H; y++) for (let x = 0; x < 4; x++) rgba.set([200, 100, 50, 255], (y * W + x) * 4);
    const before = Uint8Array.from(rgba);
    spreadUnderClear(rgba, W, H);
    for (let y = 0; y < H; y++) {
      for (let x = 0; x < 4; x++) expect(at(rgba, x, y)).toEqual([200, 100, 50, 255]);
      for (let x = 4; x < 8; x++) expect(at(rgba, x, y)).toEqual([200, 100, 50, 0]);
      for (let x = 8; x < W; x++) expect(at(rgba, x, y)).toEqual([0, 0, 0, 0]);
    }
    for (let i = 3; i < rgba.length; i += 4) expect(rgba[i]).toBe(before[i]);
  });

  it('is their mean where two colours meet, and none where there is no paint', () => {
    const rgba = new Uint8Array(W * H * 4);
    rgba.set([100, 0, 0, 255], (3 * W + 3) * 4);
    rgba.set([200, 0, 0, 10], (3 * W + 5) * 4);
    spreadUnderClear(rgba, W, H);
    expect(at(rgba, 4, 3)).toEqual([150, 0, 0, 0]);
    const nothing = new Uint8Array(W * H * 4);
    spreadUnderClear(nothing, W, H);
    expect(nothing.every((value) => value === 0)).toBe(true);
  });
});
