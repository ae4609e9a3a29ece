import { converter, interpolate, type Rgb } from 'culori';
import { describe, expect, it } from 'vitest';
import { applyAffine } from '../geometry/index.ts';
import { seededRandom } from '../units/index.ts';
import { boxToGradient, colourAt, srgbOfHex } from './gradient.ts';
import { linearOfSrgb, oklabOfSrgb, srgbOfLinear, srgbOfOklab } from './oklab.ts';
import { paintSchema } from './paint.ts';

const toOklab = converter('oklab');
const toRgb = converter('rgb');
const random = seededRandom(5);
const hex = () =>
  `#${Math.floor(random() * 0x1000000)
    .toString(16)
    .padStart(6, '0')}`;

describe('colour', () => {
  it('goes to OKLab and back as culori 4 takes it', () => {
    for (let i = 0; i < 200; i++) {
      const colour = hex();
      const ours = oklabOfSrgb(srgbOfHex(colour));
      const theirs = toOklab(colour);
      if (!theirs) throw new Error(colour);
      [theirs.l, theirs.a, theirs.b].forEach((value, c) => {
        expect(ours[c]).toBeCloseTo(value, 4);
      });
      srgbOfOklab(ours).forEach((value, c) => {
        expect(value).toBeCloseTo(srgbOfHex(colour)[c] as number, 4);
      });
    }
  });

  it('follows IEC 61966-2-1: 0.5 is 0.21404 in linear light', () => {
    expect(linearOfSrgb(0.5)).toBeCloseTo(0.21404, 5);
    expect(linearOfSrgb(0.04045)).toBeCloseTo(0.04045 / 12.92, 12);
    for (let v = 0; v <= 1; v += 0.01) expect(srgbOfLinear(linearOfSrgb(v))).toBeCloseTo(v, 6);
  });
});

describe('gradients', () => {
  it.each(['oklab', 'srgb'] as const)('are mixed in %s as culori 4 mixes them', (space) => {
    for (let i = 0; i < 60; i++) {
      const [from, middle, to] = [hex(), hex(), hex()];
      const mixed = interpolate([from, [middle, 0.3], to] as never, space === 'oklab' ? 'oklab' : 'rgb');
      const stops = [
        { at: 0, colour: from, opacity: 1 },
        { at: 0.3, colour: middle, opacity: 1 },
        { at: 1, colour: to, opacity: 1 },
      ];
      const t = random();
      const theirs = toRgb(mixed(t)) as Rgb;
      const ours = colourAt(stops, space, t);
      [theirs.r, theirs.g, theirs.b].forEach((value, c) => {
        expect(ours[c]).toBeCloseTo(Math.min(1, Math.max(0, value)), 3);
      });
    }
  });

  it('mix premultiplied: a clear stop lends no colour', () => {
    const stops = [
      { at: 0, colour: '#ff0000', opacity: 0 },
      { at: 1, colour: '#0000ff', opacity: 1 },
    ];
    expect(colourAt(stops, 'srgb', 0.5)).toEqual([0, 0, 0.5, 0.5]);
    expect(colourAt(stops, 'srgb', 0)).toEqual([0, 0, 0, 0]);
  });

  it('run along the line that CSS Images Level 3 gives (section 3.1): corner to corner at any angle', () => {
    const stops = [
      { at: 0, colour: '#000000', opacity: 1 },
      { at: 1, colour: '#ffffff', opacity: 1 },
    ];
    const box = { x: 5, y: 7, widthPx: 200, heightPx: 100 };
    const at = (angleDeg: number, x: number, y: number) =>
      applyAffine(boxToGradient({ kind: 'linear', angleDeg, space: 'srgb', stops }, box), {
        x: x + 5,
        y: y + 7,
      }).x;
    expect([at(0, 50, 100), at(0, 50, 0)].map((v) => Math.round(v * 1e9) / 1e9 + 0)).toEqual([0, 1]);
    expect([at(90, 0, 50), at(90, 200, 50)].map((v) => Math.round(v * 1e9) / 1e9 + 0)).toEqual([0, 1]);
    // At 45° the line ends where its perpendicular meets the corners.
    expect(at(45, 0, 100)).toBeCloseTo(0, 9);
    expect(at(45, 200, 0)).toBeCloseTo(1, 9);
    expect(at(123, 100, 50)).toBeCloseTo(0.5, 9);
  });

  it('are refused with stops out of order or fewer than two', () => {
    const stop = (at: number) => ({ at, colour: '#000000', opacity: 1 });
    const paint = (stops: unknown[]) =>
      paintSchema.safeParse({ kind: 'linear', angleDeg: 0, space: 'srgb', stops }).success;
    expect([paint([stop(0), stop(1)]), paint([stop(1), stop(0)]), paint([stop(0)])]).toEqual([
      true,
      false,
      false,
    ]);
  });
});
