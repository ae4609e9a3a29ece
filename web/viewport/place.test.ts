import { applyAffine } from '@keen-ridge/core/geometry';
import { describe, expect, it } from 'vitest';
import { fitAt, fittedPlace, frameToDevice, pinchedPlace, zoomedPlace } from './place.ts';

const FRAME = { widthPx: 1920, heightPx: 1080 };
const WHOLE = { x0: 0, y0: 0, x1: 1920, y1: 1080 };
const fitted = (width: number, height: number, margin: number) =>
  fitAt(fittedPlace({ width, height }, WHOLE, margin), { width, height }, FRAME);

describe('the frame in the picture', () => {
  it('is centred, as large as the margin lets it be', () => {
    expect(fitted(1000, 1000, 0.1)).toEqual({
      left: 100,
      top: 275,
      width: 800,
      height: 450,
      scale: 800 / 1920,
    });
    const low = fitted(4000, 540, 0);
    expect([low.width, low.height, low.left]).toEqual([960, 540, 1520]);
  });

  it('lies px on px at its own size, also in a room of an odd number of them', () => {
    const at = fitAt({ scale: 1, x: 960, y: 540 }, { width: 591, height: 509 }, FRAME);
    expect([at.left % 1, at.top % 1]).toEqual([0, 0].map((v) => expect.closeTo(v, 12)));
    expect(Math.abs(at.left - (295.5 - 960))).toBeLessThanOrEqual(0.5);
  });

  it('lands on device pixels by the same measure', () => {
    const corner = applyAffine(frameToDevice(fitted(1000, 1000, 0.1), 2), { x: 1920, y: 1080 });
    expect(corner.x).toBeCloseTo(1800, 9);
    expect(corner.y).toBeCloseTo(1450, 9);
  });

  it('zooms about the pointer: what is under it stays there', () => {
    const room = { width: 900, height: 700 };
    const from = fittedPlace(room, WHOLE, 0.1);
    const at = (place: typeof from) => {
      const { left, top, scale } = fitAt(place, room, FRAME);
      return { x: (200 - left) / scale, y: (610 - top) / scale };
    };
    const to = zoomedPlace(from, room, 1.7, { x: 200, y: 610 });
    expect(at(to).x).toBeCloseTo(at(from).x, 9);
    expect(at(to).y).toBeCloseTo(at(from).y, 9);
    expect(to.scale).toBe(1.7);
  });

  it('takes in all of a painting that is wider than the frame', () => {
    const room = { width: 800, height: 400 };
    const place = fittedPlace(room, { x0: -1000, y0: 0, x1: 3000, y1: 1080 }, 0);
    expect(fitAt(place, room, FRAME)).toMatchObject({ scale: 0.2, left: 200 });
  });

  it('goes with two fingers: what is under each of them stays there', () => {
    const room = { width: 900, height: 700 };
    const from = fittedPlace(room, WHOLE, 0.1);
    const before = [
      { x: 100, y: 200 },
      { x: 300, y: 200 },
    ] as const;
    const after = [
      { x: 150, y: 320 },
      { x: 550, y: 320 },
    ] as const;
    const to = pinchedPlace(from, room, before, after);
    expect(to.scale).toBeCloseTo(2 * from.scale, 12);
    for (const i of [0, 1] as const) {
      const [a, b] = [fitAt(from, room, FRAME), fitAt(to, room, FRAME)];
      expect((after[i].x - b.left) / b.scale).toBeCloseTo((before[i].x - a.left) / a.scale, 9);
      expect((after[i].y - b.top) / b.scale).toBeCloseTo((before[i].y - a.top) / a.scale, 9);
    }
  });
});
