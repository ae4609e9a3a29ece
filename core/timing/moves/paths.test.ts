// Over 400 lines: paths, tracks and rides are held to the same measures of length and place.
import { Bezier } from 'bezier-js';
import { interpolateZoom } from 'd3-interpolate';
import fc from 'fast-check';
import { svgPathProperties } from 'svg-path-properties';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../units/index.ts';
import { EASE_PRESETS } from '../index.ts';
import { cubicsThrough, MeasuredCubic, type Place } from './path.ts';
import { placesOfRide } from './ride.ts';
import { canLoop, type Sway, swayAt, swayMeasure } from './sway.ts';
import {
  addBend,
  movePoint,
  placeAtLength,
  removeBend,
  type Track,
  trackKeys,
  trackLength,
  trackLengthAt,
  trackPlaceAt,
} from './track.ts';
import {
  putTrackKey,
  smoothTrackKeys,
  trackAsChannel,
  trackByLength,
  trackFromChannel,
} from './track-keys.ts';
import { smoothWay } from './zoom-pan.ts';

const coordinate = fc.double({ min: -500, max: 500, noNaN: true });
const flat = fc.tuple(coordinate, coordinate, fc.constant(0)) as fc.Arbitrary<Place>;
const apart = (p: Place, q: Place) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);

describe('length along a cubic', () => {
  it('is that of bezier-js to a millionth, and so is the point at a length', () => {
    // Arcs that do not turn back: near a cusp its one quadrature is good to three places only.
    const bend = fc.double({ min: -90, max: 90, noNaN: true });
    fc.assert(
      fc.property(bend, bend, bend, bend, fc.double({ min: 0.1, max: 0.9, noNaN: true }), (a, b, c, d, t) => {
        const points = [
          [0, 0, 0],
          [100, a, b],
          [200, c, d],
          [300, b, a],
        ] as const satisfies readonly Place[];
        const ours = new MeasuredCubic(points);
        const theirs = new Bezier(points.map(([x, y, z]) => ({ x, y, z })));
        expect(ours.lengthSpx / theirs.length()).toBeCloseTo(1, 6);
        const { left } = theirs.split(t);
        const { x, y, z = 0 } = theirs.get(t);
        expect(apart(ours.pointAt(left.length()), [x, y, z])).toBeLessThan(1e-3);
      }),
    );
  });

  it('agrees with svg-path-properties on smooth arcs to a millionth', () => {
    const curves = [
      [0, 0, 100, 0, 200, 50, 300, 50],
      [0, 0, 40, 160, 160, 240, 300, 180],
      [-50, 20, 0, -90, 220, -10, 340, 60],
    ] as const;
    for (const [x0, y0, x1, y1, x2, y2, x3, y3] of curves) {
      const theirs = new svgPathProperties(`M${x0},${y0}C${x1},${y1},${x2},${y2},${x3},${y3}`);
      const ours = new MeasuredCubic([
        [x0, y0, 0],
        [x1, y1, 0],
        [x2, y2, 0],
        [x3, y3, 0],
      ]);
      expect(ours.lengthSpx / theirs.getTotalLength()).toBeCloseTo(1, 6);
      for (const share of [0.1, 0.25, 0.5, 0.8]) {
        const at = theirs.getPointAtLength(share * theirs.getTotalLength());
        const mine = ours.pointAt(share * ours.lengthSpx);
        // Its search ends within a thousandth of the length.
        expect(apart(mine, [at.x, at.y, 0])).toBeLessThan(0.5);
      }
    }
  });

  it('of a straight line is the distance, by hand', () => {
    const line = new MeasuredCubic([
      [0, 0, 0],
      [1, 2, 2],
      [2, 4, 4],
      [3, 6, 6],
    ]);
    expect(line.lengthSpx).toBeCloseTo(9, 12);
    expect(line.pointAt(3)[0]).toBeCloseTo(1, 10);
    expect(line.pointAt(12)).toEqual([expect.closeTo(4, 10), expect.closeTo(8, 10), expect.closeTo(8, 10)]);
  });
});

describe('a path through points', () => {
  const through = (places: readonly Place[], corners: readonly number[] = []) =>
    cubicsThrough(places.map((at, i) => ({ at, smooth: !corners.includes(i) })));
  const turnAt = (cubics: ReturnType<typeof cubicsThrough>, i: number): number => {
    const [before, after] = [cubics[i - 1]!, cubics[i]!];
    const way = (p: Place, q: Place) => Math.atan2(q[1] - p[1], q[0] - p[0]);
    const turned = way(after[0], after[1]) - way(before[2], before[3]);
    return Math.abs(Math.atan2(Math.sin(turned), Math.cos(turned)));
  };
  const places = fc.array(flat, { minLength: 3, maxLength: 7 });

  it('runs from each to the next, in one direction through the smooth ones', () => {
    fc.assert(
      fc.property(places, (list) => {
        fc.pre(list.every((p, i) => i === 0 || apart(p, list[i - 1]!) > 5));
        const cubics = through(list);
        for (const [i, cubic] of cubics.entries()) {
          expect([cubic[0], cubic[3]]).toEqual([list[i], list[i + 1]]);
          // A path that goes straight back the way it came has no direction where it turns.
          const directed = apart(cubic[0], cubic[1]) > 1e-3 && i > 0;
          if (directed) expect(turnAt(cubics, i)).toBeLessThan(1e-5);
        }
      }),
    );
  });

  it('turns at once where it is told to have a corner, and is straight between two of them', () => {
    const cubics = through(
      [
        [0, 0, 0],
        [100, 0, 0],
        [100, 80, 0],
        [0, 80, 0],
      ],
      [1, 2],
    );
    expect([turnAt(cubics, 1), turnAt(cubics, 2)]).toEqual([
      expect.closeTo(Math.PI / 2, 9),
      expect.closeTo(Math.PI / 2, 9),
    ]);
    for (const cubic of cubics) {
      const measured = new MeasuredCubic(cubic);
      expect(measured.lengthSpx).toBeCloseTo(apart(cubic[0], cubic[3]), 9);
    }
  });

  it('is a parabola from an end into a smooth point: its third difference is nought', () => {
    const [first] = through([
      [0, 0, 0],
      [120, 60, 10],
      [200, -20, 40],
    ]);
    const [p0, p1, p2, p3] = first!;
    for (const axis of [0, 1, 2] as const)
      expect(p3[axis] - 3 * p2[axis] + 3 * p1[axis] - p0[axis]).toBeCloseTo(0, 9);
  });

  it('has no loop between points, however uneven they stand', () => {
    const cubics = through([
      [0, 0, 0],
      [300, 0, 0],
      [305, 20, 0],
      [600, 25, 0],
    ]);
    const whole = cubics.reduce((sum, cubic) => sum + new MeasuredCubic(cubic).lengthSpx, 0);
    expect(whole).toBeLessThan(1.06 * (300 + 20.7 + 295.1));
  });
});

const track = (keys: readonly (readonly [number, Place])[], ease = EASE_PRESETS['in-out']): Track => ({
  points: keys.map(([frame, at]) => ({ kind: 'key', frame, at, smooth: true, ease })),
});
const keyed = fc
  .tuple(
    fc.uniqueArray(fc.integer({ min: 1, max: 100 }), { minLength: 2, maxLength: 5 }),
    fc.array(flat, { minLength: 5, maxLength: 5 }),
  )
  .map(([frames, places]) => track(frames.sort((p, q) => p - q).map((frame, i) => [frame, places[i]!])));

describe('a track', () => {
  it('passes its keys on their frames, whatever its bends', () => {
    fc.assert(
      fc.property(keyed, flat, flat, (before, near, to) => {
        const bent = addBend(before, near);
        fc.pre(
          bent !== null &&
            before.points.every((p, i) => i === 0 || apart(p.at, before.points[i - 1]!.at) > 1),
        );
        const moved = movePoint(bent!.track, bent!.index, to);
        for (const { frame, at } of trackKeys(before))
          expect(apart(trackPlaceAt(moved, frame), at)).toBeLessThan(1e-6);
        expect(trackKeys(moved)).toEqual(trackKeys(before));
        expect(removeBend(moved, bent!.index)).toEqual(before);
        expect(removeBend(moved, moved.points.length - 1)).toEqual(moved);
      }),
    );
  });

  it('is travelled by its length: even spacing on an even span, however it bends', () => {
    const bent = movePoint(
      addBend(
        track(
          [
            [1, [0, 0, 0]],
            [41, [400, 0, 0]],
          ],
          EASE_PRESETS.linear,
        ),
        [200, 0, 0],
      )!.track,
      1,
      [120, 260, 0],
    );
    const steps = Array.from(
      { length: 40 },
      (_, i) => trackLengthAt(bent, i + 2) - trackLengthAt(bent, i + 1),
    );
    for (const step of steps) expect(step).toBeCloseTo(trackLength(bent) / 40, 9);
    // Chords are a little shorter than the arcs that they cut, and nowhere longer.
    const chords = steps.map((_, i) => apart(trackPlaceAt(bent, i + 1), trackPlaceAt(bent, i + 2)));
    expect(Math.max(...chords)).toBeLessThanOrEqual(trackLength(bent) / 40 + 1e-9);
    expect(Math.min(...chords)).toBeGreaterThan((trackLength(bent) / 40) * 0.9);
  });

  it('keyed where it is, is where it was', () => {
    const before = track([
      [1, [0, 0, 0]],
      [50, [300, 80, 0]],
      [90, [500, -40, 100]],
    ]);
    const after = putTrackKey(before, 30);
    expect(trackKeys(after)).toHaveLength(4);
    expect(apart(trackPlaceAt(after, 30), trackPlaceAt(before, 30))).toBeLessThan(1e-6);
    // The path may change a little round the new point, the timing along it may not.
    for (let f = 1; f <= 90; f++)
      expect(apart(trackPlaceAt(after, f), trackPlaceAt(before, f))).toBeLessThan(16);
    expect(apart(placeAtLength(before, 0), [0, 0, 0])).toBe(0);
  });

  it('has its keys moved and turned round like any others, bends between them', () => {
    const bent = addBend(
      track([
        [1, [0, 0, 0]],
        [50, [300, 80, 0]],
        [90, [500, -40, 0]],
      ]),
      [150, 20, 0],
    )!.track;
    const channel = trackAsChannel(bent);
    expect(channel.keys.map((key) => key.frame)).toEqual([1, 50, 90]);
    expect(trackFromChannel(bent, channel)).toEqual(bent);
    const turned = { keys: channel.keys.map((key) => ({ ...key, frame: 91 - key.frame })).reverse() };
    const back = trackFromChannel(bent, turned)!;
    expect(back.points.map((point) => point.kind)).toEqual(['key', 'key', 'bend', 'key']);
    expect(trackLength(back)).toBeCloseTo(trackLength(bent), 6);
    expect(trackFromChannel(bent, { keys: [] })).toBeNull();
  });

  it('is smoothed along its path: one speed before and after a key, however long the way is on either side', () => {
    const made = track([
      [1, [0, 0, 0]],
      [21, [100, 0, 0]],
      [41, [900, 300, 40]],
      [90, [950, 300, 0]],
    ]);
    const all = new Set(trackKeys(made).map((key) => key.frame));
    const smooth = trackFromChannel(made, smoothTrackKeys(made, all))!;
    expect(smooth.points.map(({ at }) => at)).toEqual(made.points.map(({ at }) => at));
    for (const frame of [21, 41]) {
      const speed = (from: number) =>
        (trackLengthAt(smooth, from + 1e-4) - trackLengthAt(smooth, from)) / 1e-4;
      expect(speed(frame - 1e-4)).toBeGreaterThan(0.5);
      expect(speed(frame) / speed(frame - 1e-4)).toBeCloseTo(1, 3);
    }
    // Nothing turns back on the way.
    for (let f = 1; f < 90; f += 0.5)
      expect(trackLengthAt(smooth, f + 0.5)).toBeGreaterThanOrEqual(trackLengthAt(smooth, f) - 1e-9);
    const paced = trackByLength({ ...smooth, muted: true });
    expect(paced).toMatchObject({ muted: true, keys: [{ value: 0 }, { frame: 21 }, {}, { frame: 90 }] });
    expect(paced.keys[3]!.value).toBeCloseTo(trackLength(made), 9);
  });
});

describe('the smooth way from one field to another', () => {
  it("is van Wijk & Nuij's, as d3-interpolate has it", () => {
    const random = seededRandom(7);
    const field = () => ({
      x: random() * 4000 - 2000,
      y: random() * 2000 - 1000,
      width: 100 + random() * 4000,
    });
    for (let i = 0; i < 200; i++) {
      const [from, to] = [field(), field()];
      const theirs = interpolateZoom([from.x, from.y, from.width], [to.x, to.y, to.width]);
      const ours = smoothWay(from, to);
      // d3 gives the path's length as milliseconds, times ρ/√2 = 1.
      expect((ours.length * 1000) / theirs.duration).toBeCloseTo(1, 6);
      for (const t of [0, 0.1, 0.35, 0.5, 0.77, 1]) {
        const [x, y, width] = theirs(t);
        const at = ours.at(t);
        expect(at.x).toBeCloseTo(x, 4);
        expect(at.y).toBeCloseTo(y, 4);
        expect(at.width / width).toBeCloseTo(1, 7);
      }
    }
  });

  it('arrives however short the pan is', () => {
    for (const x of [100, 1, 1e-2, 1e-3, 1e-4, 1e-5, 1e-6, 1e-9, 0]) {
      for (const [from, to] of [
        [1920, 1920 * 8],
        [1920, 1920 / 8],
        [1920, 1920],
      ] as const) {
        const end = smoothWay({ x: 0, y: 0, width: from }, { x, y: 0, width: to }).at(1);
        expect(end.width / to).toBeCloseTo(1, 9);
        expect(end.x).toBeCloseTo(x, 9);
      }
    }
  });

  it('only zooms where the middle stays', () => {
    const way = smoothWay({ x: 5, y: 6, width: 1920 }, { x: 5, y: 6, width: 480 });
    expect(way.at(0.5)).toEqual({ x: 5, y: 6, width: expect.closeTo(960, 9) });
  });
});

describe('sway', () => {
  const sway: Sway = {
    on: true,
    amplitude: { panX: 19, panY: 12, truck: 4, roll: 0.3 },
    frequencyHz: 1.5,
    seed: 3,
    fadeInFrames: 12,
    fadeOutFrames: 24,
    loops: false,
  };
  const at = (s: Sway, frame: number) => swayAt(s, 'panX', frame, 240, { num: 24, den: 1 });

  it('stays within its amplitude, fades, and is another for another seed', () => {
    const values = Array.from({ length: 240 }, (_, i) => at(sway, i + 1));
    expect(Math.max(...values.map(Math.abs))).toBeLessThanOrEqual(19);
    expect(Math.max(...values.map(Math.abs))).toBeGreaterThan(5);
    expect([values[0], values[239]]).toEqual([expect.closeTo(0, 12), expect.closeTo(0, 12)]);
    expect(values).not.toEqual(Array.from({ length: 240 }, (_, i) => at({ ...sway, seed: 4 }, i + 1)));
    expect(at({ ...sway, on: false }, 100)).toBe(0);
  });

  it('holds no more than a trace of what is faster than its frequency', () => {
    // Ten seconds at 24: a discrete Fourier transform with bins of a tenth of a hertz, under a Hann window.
    const values = Array.from({ length: 240 }, (_, i) =>
      at({ ...sway, fadeInFrames: 0, fadeOutFrames: 0 }, i + 1),
    );
    const power = (bin: number) => {
      let [re, im] = [0, 0];
      for (const [i, value] of values.entries()) {
        const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / 240);
        re += value * window * Math.cos((2 * Math.PI * bin * i) / 240);
        im += value * window * Math.sin((2 * Math.PI * bin * i) / 240);
      }
      return re * re + im * im;
    };
    const bins = Array.from({ length: 119 }, (_, i) => power(i + 1));
    const above = bins.slice(19).reduce((sum, p) => sum + p, 0);
    expect(above / bins.reduce((sum, p) => sum + p, 0)).toBeLessThan(1e-3);
  });

  it('closes over the shot where it loops', () => {
    // Fades would open it again: one that loops has none.
    const looped = { ...sway, loops: true };
    const free = { ...sway, fadeInFrames: 0, fadeOutFrames: 0 };
    for (const frame of [1, 37.5, 120]) expect(at(looped, frame + 240)).toBeCloseTo(at(looped, frame), 9);
    expect(Math.abs(at({ ...free, loops: false }, 241) - at({ ...free, loops: false }, 1))).toBeGreaterThan(
      1e-3,
    );
  });

  it('that loops keeps the amplitude that is said, whatever its seed and however short the shot', () => {
    for (const [frequencyHz, lengthFrames] of [
      [1.5, 240],
      [1.2, 96],
      [1, 24],
      [2, 30],
      [3, 48],
    ] as const)
      for (let seed = 1; seed <= 40; seed++) {
        const looped = { ...sway, loops: true, frequencyHz, seed };
        const { rms, peak } = swayMeasure(looped, 'panX', lengthFrames, { num: 24, den: 1 });
        expect(peak).toBeLessThanOrEqual(19 * 1.01);
        expect(peak).toBeGreaterThan(19 * 0.9);
        // Of one wave 0.71, of many that seldom meet less.
        expect(rms / 19).toBeGreaterThan(0.25);
      }
  });

  it('that loops has no part outside its band, and cannot where none of it turns once', () => {
    const rate = { num: 24, den: 1 };
    expect(canLoop({ frequencyHz: 0.5 }, 24, rate)).toBe(false);
    expect(canLoop({ frequencyHz: 0.5 }, 48, rate)).toBe(true);
    // Half a hertz over a second turned once a second; now it stands still, as the dock says.
    const slow = { ...sway, loops: true, frequencyHz: 0.5 };
    expect(swayMeasure(slow, 'panX', 24, rate)).toEqual({ rms: 0, peak: 0 });
    // One turn is the only whole number from a quarter to 1: the wave is one sine.
    const one = { ...sway, loops: true, frequencyHz: 1 };
    const values = [1, 7, 13, 19].map((frame) => swayAt(one, 'panX', frame, 24, rate));
    expect(values[0]! + values[2]!).toBeCloseTo(0, 9);
    expect(Math.hypot(values[0]!, values[1]!)).toBeCloseTo(19, 0);
  });
});

describe('a ride', () => {
  const samples = Array.from({ length: 61 }, (_, i) => ({
    seconds: i / 60,
    x: i * 4,
    y: 30 * Math.sin(i / 8),
  }));

  it('has a place for every frame, from where the pen came down to where it was lifted', () => {
    const { x, y } = placesOfRide(samples, 24, 0);
    expect(x).toHaveLength(25);
    expect(x[12]).toBeCloseTo(120, 9);
    expect(y[24]).toBeCloseTo(30 * Math.sin(7.5), 9);
    expect(placesOfRide(samples, 12, 0).x).toHaveLength(13);
    expect(placesOfRide([], 24, 0)).toEqual({ x: [], y: [] });
  });

  it('is smoothed without moving its ends', () => {
    const shaky = samples.map((sample, i) => ({ ...sample, y: sample.y + (i % 2 === 0 ? 4 : -4) }));
    const [rough, smooth] = [placesOfRide(shaky, 24, 0).y, placesOfRide(shaky, 24, 0.06).y];
    const bumps = (v: number[]) =>
      v.slice(2).reduce((sum, _, i) => sum + Math.abs(v[i + 2]! - 2 * v[i + 1]! + v[i]!), 0);
    expect(bumps(smooth)).toBeLessThan(bumps(rough) / 3);
    expect([smooth[0], smooth.at(-1)]).toEqual([
      expect.closeTo(rough[0]!, 9),
      expect.closeTo(rough.at(-1)!, 9),
    ]);
  });
});

describe('a track beyond its keys', () => {
  const key = (frame: number, at: Place) =>
    ({ kind: 'key', frame, at, smooth: true, ease: { kind: 'linear' } }) as const;
  const track: Track = { points: [key(11, [0, 0, 0]), key(21, [100, 40, 0]), key(31, [60, 90, 20])] };
  const at = (beyond: Track['after'], frame: number) =>
    trackPlaceAt({ ...track, before: beyond, after: beyond }, frame);
  const close = (p: Place, q: Place) => expect(apart(p, q)).toBeLessThan(1e-9);

  it('rests where nothing is said', () => {
    close(at(undefined, 90), [60, 90, 20]);
    close(at(undefined, 1), [0, 0, 0]);
  });

  it('repeats, goes there and back, or goes on from where it ended, on both sides', () => {
    for (const into of [0.5, 3, 12.25, 19]) {
      const [there, back] = [trackPlaceAt(track, 11 + into), trackPlaceAt(track, 31 - into)];
      close(at('repeat', 31 + into), there);
      close(at('repeat', 11 - into), back);
      close(at('there-and-back', 31 + into), back);
      close(at('there-and-back', 51 + into), there);
      close(at('go-on', 31 + into), [there[0] + 60, there[1] + 90, there[2] + 20]);
      close(at('go-on', 51 + into), [there[0] + 120, there[1] + 180, there[2] + 40]);
      close(at('go-on', 11 - into), [back[0] - 60, back[1] - 90, back[2] - 20]);
    }
  });
});
