import { describe, expect, it } from 'vitest';
import { seededRandom } from '../units/index.ts';
import { DISTANCE_RANGES, edgeDistances, rangeFor, softEdgeAt } from './distance.ts';
import { raster } from './raster.ts';

const STEP_PX = 64 / 65_535;

/** Blots of paint, some on the border. */
function blots(seed: number, widthPx: number, heightPx: number) {
  const random = seededRandom(seed);
  const image = raster(widthPx, heightPx, 'straight');
  const spots = Array.from({ length: 4 }, () => [random() * widthPx, random() * heightPx, 3 + random() * 9]);
  for (let y = 0; y < heightPx; y++)
    for (let x = 0; x < widthPx; x++)
      if (spots.some(([cx, cy, r]) => Math.hypot(x - cx!, y - cy!) < r!))
        image.data[(y * widthPx + x) * 4 + 3] = 128 + Math.floor(random() * 128);
      else image.data[(y * widthPx + x) * 4 + 3] = Math.floor(random() * 127);
  return image;
}

/** Every clear px looked at for every px of paint, copies of what comes round again too. */
function byLooking(
  { widthPx: w, heightPx: h, data }: ReturnType<typeof blots>,
  endless: { across: boolean; down: boolean },
): number[] {
  const clear: [number, number][] = [];
  const [mx, my] = [endless.across ? w : 1, endless.down ? h : 1];
  for (let y = -my; y < h + my; y++)
    for (let x = -mx; x < w + mx; x++) {
      const [u, v] = [endless.across ? (x + w) % w : x, endless.down ? (y + h) % h : y];
      const outside = u < 0 || v < 0 || u >= w || v >= h;
      if (outside || data[(v * w + u) * 4 + 3]! < 127.5) clear.push([x, y]);
    }
  return Array.from({ length: w * h }, (_, i) => {
    const [x, y] = [i % w, Math.floor(i / w)];
    const nearest = Math.min(...clear.map(([cx, cy]) => Math.hypot(cx - x, cy - y)));
    return Math.max(0, nearest - 0.5);
  });
}

describe('distances to the edge of the paint', () => {
  it.each([
    [false, false],
    [true, false],
    [false, true],
    [true, true],
  ])('are those to the nearest clear px, of all there are (endless across: %s, down: %s)', (across, down) => {
    for (const seed of [1, 2, 3]) {
      const image = blots(seed, 37, 29);
      const { data } = edgeDistances(image, { across, down });
      byLooking(image, { across, down }).forEach((distance, i) => {
        expect(Math.abs(data[i * 4 + 3]! * STEP_PX - distance)).toBeLessThanOrEqual(STEP_PX / 2 + 1e-9);
      });
    }
  });

  it('of a whole canvas are half a px at its border, and end where none are told', () => {
    const whole = raster(9, 5, 'straight');
    whole.data.fill(255);
    const { data } = edgeDistances(whole, { across: false, down: false });
    const at = (x: number, y: number) => data[(y * 9 + x) * 4 + 3]! * STEP_PX;
    expect([at(0, 2), at(1, 2), at(4, 2)]).toEqual([0.5, 1.5, 2.5].map((v) => expect.closeTo(v, 3)));
    const endless = edgeDistances(whole, { across: true, down: true });
    expect([...endless.data.subarray(0, 4)]).toEqual([65_535, 65_535, 0, 65_535]);
  });

  it('are told up to 64, 512 and 4000 px, of an edge so wide in the finest that reaches', () => {
    expect([1, 64, 65, 512, 513, 4000].map((px) => rangeFor(px).px)).toEqual([64, 64, 512, 512, 4000, 4000]);
    const bar = raster(1, 301, 'straight');
    bar.data.fill(255);
    const { data } = edgeDistances(bar, { across: true, down: false });
    // In the middle of 301 px: 150.5 px from either end.
    const alpha = data[150 * 4 + 3]! / 65_535;
    const told = DISTANCE_RANGES.map(
      ({ channel, px }) => (data[150 * 4 + channel]! / 65_535) * (channel === 3 ? 1 : alpha) * px,
    );
    expect(told).toEqual([64, expect.closeTo(150.5, 1), expect.closeTo(150.5, 0)]);
  });
});

describe('the ramp of a soft edge', () => {
  it('is nought at the edge, half in its middle and all at its end, level at both', () => {
    expect([0, 10, 20, 40].map((px) => softEdgeAt(px, 20))).toEqual([0, 0.5, 1, 1]);
    expect(softEdgeAt(0.01, 20)).toBeLessThan(1e-5);
  });
});
