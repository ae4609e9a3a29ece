import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Channel, channelValueAt, speedProfile } from './channel.ts';
import { EASE_PRESETS, type Ease, overshoots, withoutOvershoot } from './ease.ts';
import { type Interpolation, interpolate } from './interpolation.ts';
import { mapValues, shiftChannel } from './key-edits.ts';
import { sampleChannel } from './sample-channel.ts';

const ease: fc.Arbitrary<Ease> = fc.oneof(
  fc.constantFrom(EASE_PRESETS.hold, EASE_PRESETS.linear, EASE_PRESETS['in-out']),
  fc.record({
    kind: fc.constant('bezier' as const),
    x1: fc.double({ min: 0, max: 0.7, noNaN: true }),
    y1: fc.double({ min: -1, max: 2, noNaN: true }),
    x2: fc.double({ min: 0.3, max: 1, noNaN: true }),
    y2: fc.double({ min: -1, max: 2, noNaN: true }),
  }),
);
const channel = fc
  .uniqueArray(
    fc.tuple(fc.integer({ min: -20, max: 120 }), fc.double({ min: 1, max: 30, noNaN: true }), ease),
    {
      selector: ([frame]) => frame,
      maxLength: 8,
    },
  )
  .map(
    (keys): Channel => ({
      value: 4,
      keys: keys.map(([frame, value, e]) => ({ frame, value, ease: e })).sort((p, q) => p.frame - q.frame),
    }),
  );
const interpolation = fc.constantFrom<Interpolation>('linear', 'log', { logTo: 100 });

describe('a channel sampled at once', () => {
  it('has the values that it has frame by frame, wherever the first frame is', () => {
    fc.assert(
      fc.property(channel, interpolation, fc.integer({ min: -30, max: 60 }), (c, way, first) => {
        const sampled = sampleChannel(c, first, 90, way);
        for (let i = 0; i < 90; i++) {
          const value = channelValueAt(c, first + i, way);
          expect(Math.abs(sampled[i]! - value)).toBeLessThan(1e-7 * (1 + Math.abs(value)));
        }
      }),
    );
  });

  it('rests where it is muted or has no keys', () => {
    const keyed: Channel = {
      value: 7,
      keys: [{ frame: 3, value: 1, ease: EASE_PRESETS.linear }],
      muted: true,
    };
    expect([...sampleChannel(keyed, 1, 4, 'linear')]).toEqual([7, 7, 7, 7]);
    expect([...sampleChannel({ value: 2, keys: [] }, 1, 2, 'log')]).toEqual([2, 2]);
    const { muted: _, ...moving } = keyed;
    expect([...sampleChannel(moving, 1, 4, 'linear')]).toEqual([1, 1, 1, 1]);
  });
});

describe('between two keys', () => {
  it('growth is even in log, by hand', () => {
    // 1 to 16 in four steps of doubling.
    expect([0, 0.25, 0.5, 0.75, 1].map((t) => interpolate(1, 16, t, 'log'))).toEqual(
      [1, 2, 4, 8, 16].map((v) => expect.closeTo(v, 12)),
    );
    // What is left to 1920 halves with every third: 1920, 960, 480, 240.
    expect([0, 1 / 3, 2 / 3, 1].map((t) => interpolate(0, 1680, t, { logTo: 1920 }))).toEqual(
      [0, 960, 1440, 1680].map((v) => expect.closeTo(v, 9)),
    );
  });

  it('steps are plain where growth is not defined: at the pivot or across it', () => {
    expect(interpolate(0, 10, 0.5, 'log')).toBe(5);
    expect(interpolate(-4, 4, 0.25, 'log')).toBe(-2);
    expect(interpolate(50, 150, 0.5, { logTo: 100 })).toBe(100);
    expect(interpolate(3, 3, 0.7, 'log')).toBe(3);
  });

  it('the ends are met exactly whatever the scale', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.1, max: 90, noNaN: true }),
        fc.double({ min: 0.1, max: 90, noNaN: true }),
        interpolation,
        (from, to, way) => {
          expect(interpolate(from, to, 0, way)).toBeCloseTo(from, 9);
          expect(interpolate(from, to, 1, way)).toBeCloseTo(to, 9);
        },
      ),
    );
  });
});

describe('whole channels', () => {
  it('shift through the value that they are given; in log by a ratio', () => {
    fc.assert(
      fc.property(
        channel,
        fc.integer({ min: 1, max: 90 }),
        fc.double({ min: 1, max: 50, noNaN: true }),
        (c, at, value) => {
          const [moved, grown] = [shiftChannel(c, at, value, 'linear'), shiftChannel(c, at, value, 'log')];
          expect(channelValueAt(moved, at, 'linear')).toBeCloseTo(value, 6);
          expect(moved.keys.map((key) => key.frame)).toEqual(c.keys.map((key) => key.frame));
          if (channelValueAt(c, at, 'log') > 0.5)
            expect(channelValueAt(grown, at, 'log')).toBeCloseTo(value, 5);
          const by = c.keys[0] ? moved.keys[0]!.value - c.keys[0].value : moved.value - c.value;
          for (const [i, key] of c.keys.entries())
            expect(moved.keys[i]!.value - key.value).toBeCloseTo(by, 9);
        },
      ),
    );
  });

  it('go through a change value by value, marks and frames untouched', () => {
    const c: Channel = { value: 2, keys: [{ frame: 5, value: 3, ease: EASE_PRESETS.hold }], locked: true };
    expect(mapValues(c, (v) => v * 10)).toEqual({
      value: 20,
      keys: [{ frame: 5, value: 30, ease: EASE_PRESETS.hold }],
      locked: true,
    });
  });

  it('have a speed that adds up to the way from key to key', () => {
    fc.assert(
      fc.property(channel, interpolation, (c, way) => {
        for (let i = 0; i < c.keys.length - 1; i++) {
          const [from, to] = [c.keys[i]!, c.keys[i + 1]!];
          const profile = speedProfile(c, i, 24, way);
          const sum = profile.reduce((total, speed) => total + (speed * (to.frame - from.frame)) / 24, 0);
          expect(sum).toBeCloseTo(from.ease.kind === 'hold' ? 0 : to.value - from.value, 6);
        }
        expect(speedProfile(c, c.keys.length - 1, 24, way)).toEqual([]);
      }),
    );
  });
});

describe('an ease that all but stands still', () => {
  it('is where it should be in the middle, sampled or by itself', () => {
    const strongest: Ease = { kind: 'bezier', x1: 1, y1: 0, x2: 0, y2: 1 };
    const c: Channel = {
      value: 0,
      keys: [
        { frame: 1, value: 0, ease: strongest },
        { frame: 101, value: 3000, ease: EASE_PRESETS.linear },
      ],
    };
    const sampled = sampleChannel(c, 1, 101, 'linear');
    expect(sampled[50]).toBeCloseTo(1500, 9);
    // x(u) = ½ + 4(u − ½)³ and y(u) = 3u² − 2u³, worked by hand: the cube root of what the time is off the middle by.
    for (const frame of [52, 60, 45]) {
      const u = 0.5 + Math.cbrt(((frame - 1) / 100 - 0.5) / 4);
      expect(sampled[frame - 1]).toBeCloseTo(3000 * (3 * u * u - 2 * u ** 3), 7);
    }
    fc.assert(
      fc.property(
        fc.double({ min: 0.98, max: 1, noNaN: true }),
        fc.integer({ min: 2, max: 100 }),
        (x1, frame) => {
          const near: Ease = { kind: 'bezier', x1, y1: 0, x2: 1 - x1, y2: 1 };
          const of = { ...c, keys: [{ ...c.keys[0]!, ease: near }, c.keys[1]!] };
          expect(sampleChannel(of, 1, 101, 'linear')[frame - 1]).toBeCloseTo(
            channelValueAt(of, frame, 'linear'),
            5,
          );
        },
      ),
    );
  });
});

describe('overshoot', () => {
  it('is told and taken away', () => {
    fc.assert(
      fc.property(ease, (e) => {
        const kept = withoutOvershoot(e);
        expect(overshoots(kept)).toBe(false);
        if (!overshoots(e)) expect(kept).toEqual(e);
      }),
    );
    expect(overshoots({ kind: 'bezier', x1: 0.3, y1: -0.2, x2: 0.7, y2: 1 })).toBe(true);
    expect(overshoots(EASE_PRESETS.hold)).toBe(false);
  });
});
