import { describe, expect, it } from 'vitest';
import { throughAir, transmissionAt } from './air.ts';
import { defocusPx } from './defocus.ts';
import { gradeMatrix, vignetteAt } from './grade.ts';
import { srgbOfHex } from './gradient.ts';

const PLAIN = { brightness: 1, saturation: 1, tint: srgbOfHex('#ffffff'), tintStrength: 0 };

describe('grades', () => {
  it('that change nothing are none, whatever the tint that is not used', () => {
    expect(gradeMatrix(PLAIN)).toBeNull();
    expect(gradeMatrix({ ...PLAIN, tint: srgbOfHex('#123456') })).toBeNull();
  });

  it('without saturation give all three channels one grey, by the weights of Filter Effects Level 1', () => {
    const grey = gradeMatrix({ ...PLAIN, saturation: 0 });
    for (const row of [0, 3, 6])
      expect(grey?.slice(row, row + 3)).toEqual([0.213, 0.715, 0.072].map((w) => expect.closeTo(w, 12)));
  });

  it('keep greys at any saturation, and multiply by brightness and by what the glass lets through', () => {
    for (const saturation of [0, 0.4, 1, 3]) {
      const m = gradeMatrix({ brightness: 0.5, saturation, tint: srgbOfHex('#ff8000'), tintStrength: 0.5 });
      const grey = [0, 3, 6].map((row) => (m?.[row] ?? 0) + (m?.[row + 1] ?? 0) + (m?.[row + 2] ?? 0));
      // Half the light; the glass at half strength takes nothing of red, about a quarter of green, half of blue.
      const green = 0.5 * (1 + 0.5 * (128 / 255 - 1));
      expect(grey).toEqual([0.5, green, 0.25].map((v) => expect.closeTo(v, 12)));
    }
  });
});

describe('air', () => {
  const air = { colour: '#8899aa', visibilitySpx: 1000 };

  // Koschmieder 1924: V = 3.912/β at 2 % contrast; WMO-No. 8: 2.996/β at 5 %.
  it('leaves 2 % of the contrast at the visibility, and 5 % where meteorologists put theirs', () => {
    expect(transmissionAt(air, 1920 + 1000, 1920)).toBeCloseTo(0.02, 4);
    expect(transmissionAt(air, 1920 + (1000 * 2.996) / 3.912, 1920)).toBeCloseTo(0.05, 4);
  });

  it('is not there on the datum and nearer', () => {
    expect([transmissionAt(air, 1920, 1920), transmissionAt(air, 300, 1920)]).toEqual([1, 1]);
  });

  it('mixes in linear light: half of black and white is 0.735 of sRGB', () => {
    // IEC 61966-2-1: linear 0.5 is 0.73536.
    expect(throughAir(0, 0.5, 1)).toBeCloseTo(0.735357, 5);
    expect(throughAir(0.3, 1, 0.9)).toBeCloseTo(0.3, 12);
    expect(throughAir(0.3, 0, 0.9)).toBeCloseTo(0.9, 12);
  });
});

describe('the lens', () => {
  it('is sharp at its focus, blurs as much by far as iris and focal length say, and halves with the iris', () => {
    expect(defocusPx(40, 1920, 1920, 1920)).toBe(0);
    // b = iris·f·|1/s − 1/d|: towards infinity iris·f/s.
    expect(defocusPx(40, 1920, 1920, 1e12)).toBeCloseTo(40, 6);
    expect(defocusPx(40, 1920, 1920, 3840)).toBeCloseTo(20, 9);
    expect(defocusPx(20, 1920, 1920, 3840)).toBeCloseTo(10, 9);
    expect(defocusPx(40, 1920, 1920, 960)).toBeCloseTo(40, 9);
  });

  it('with a shut iris, or a focus behind the camera, blurs nothing', () => {
    expect([
      defocusPx(0, 1920, 1920, 900),
      defocusPx(40, 1920, -5, 900),
      defocusPx(40, 1920, 900, 0),
    ]).toEqual([0, 0, 0]);
  });
});

it('a vignette leaves the middle, takes its whole strength in the corners, and falls all the way', () => {
  expect([vignetteAt(0.4, 0), vignetteAt(0.4, 0.35), vignetteAt(0.4, 1), vignetteAt(0.4, 3)]).toEqual([
    1, 1, 0.6, 0.6,
  ]);
  const along = Array.from({ length: 50 }, (_, i) => vignetteAt(1, 0.35 + (i / 49) * 0.65));
  expect(along.every((v, i) => i === 0 || v < along[i - 1]!)).toBe(true);
});
