import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Channel, channelValueAt, speedsAtKey } from './channel.ts';
import {
  EASE_PRESET_NAMES,
  EASE_PRESETS,
  type Ease,
  easeOfStrength,
  easeProgress,
  endSlopes,
  splitEase,
  strengthOf,
} from './ease.ts';
import type { Interpolation } from './interpolation.ts';
import { layKeys, restAt, reverseKeys, rollKey, splitAt, stretchKeys } from './key-edits.ts';
import { reduceToKeys } from './reduce-keys.ts';
import { smoothKeys } from './smooth-keys.ts';

const ease: fc.Arbitrary<Ease> = fc.oneof(
  fc.constantFrom(...EASE_PRESET_NAMES).map((name) => EASE_PRESETS[name]),
  fc.record({
    kind: fc.constant('bezier' as const),
    x1: fc.double({ min: 0, max: 0.6, noNaN: true }),
    y1: fc.double({ min: -0.3, max: 0.4, noNaN: true }),
    x2: fc.double({ min: 0.4, max: 1, noNaN: true }),
    y2: fc.double({ min: 0.6, max: 1.3, noNaN: true }),
  }),
);
const INTERPOLATIONS: readonly Interpolation[] = ['linear', 'log', { logTo: 90 }];
const channel = fc
  .uniqueArray(
    fc.tuple(fc.integer({ min: 1, max: 90 }), fc.double({ min: 0.5, max: 40, noNaN: true }), ease),
    {
      selector: ([frame]) => frame,
      minLength: 2,
      maxLength: 7,
    },
  )
  .map(
    (keys): Channel => ({
      value: 1,
      keys: keys.map(([frame, value, e]) => ({ frame, value, ease: e })).sort((p, q) => p.frame - q.frame),
    }),
  );
const interpolation = fc.constantFrom(...INTERPOLATIONS);
const allOf = ({ keys }: Channel) => new Set(keys.map((key) => key.frame));
const EVERY = Array.from({ length: 100 }, (_, i) => i + 1);

describe('eases by strength', () => {
  it('reach the keyword values of W3C CSS Easing Functions Level 1 at 42 %', () => {
    for (const way of ['in', 'out', 'in-out'] as const) {
      expect(easeOfStrength(way, 0.42)).toEqual(EASE_PRESETS[way]);
      expect(strengthOf(EASE_PRESETS[way])).toMatchObject({ way, strength: expect.closeTo(0.42, 12) });
    }
    expect(strengthOf({ kind: 'bezier', x1: 0.3, y1: 0.2, x2: 1, y2: 1 })).toBeNull();
  });

  it('know their slopes at both ends', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.2, max: 0.8, noNaN: true }),
        fc.double({ min: -1, max: 2, noNaN: true }),
        fc.double({ min: 0.2, max: 0.8, noNaN: true }),
        fc.double({ min: -1, max: 2, noNaN: true }),
        (x1, y1, x2, y2) => {
          const curve: Ease = { kind: 'bezier', x1, y1, x2, y2 };
          const h = 1e-7;
          const { start, end } = endSlopes(curve);
          expect(start).toBeCloseTo(easeProgress(curve, h) / h, 2);
          expect(end).toBeCloseTo((1 - easeProgress(curve, 1 - h)) / h, 2);
        },
      ),
    );
  });

  it('run on unchanged when they are cut in two', () => {
    fc.assert(
      fc.property(ease, fc.double({ min: 0.05, max: 0.95, noNaN: true }), (whole, cut) => {
        const { at, parts } = splitEase(whole, cut);
        fc.pre(whole.kind !== 'bezier' || (Math.abs(at) > 0.05 && Math.abs(1 - at) > 0.05));
        if (whole.kind === 'hold') return;
        for (let i = 1; i < 20; i++) {
          const t = i / 20;
          const first = at * easeProgress(parts[0], t);
          const second = at + (1 - at) * easeProgress(parts[1], t);
          expect(first).toBeCloseTo(easeProgress(whole, cut * t), 5);
          expect(second).toBeCloseTo(easeProgress(whole, cut + (1 - cut) * t), 5);
        }
      }),
    );
  });
});

describe('keys', () => {
  it('set on a span leave every value as it was', () => {
    fc.assert(
      fc.property(channel, fc.integer({ min: 1, max: 90 }), interpolation, (before, frame, way) => {
        const after = splitAt(before, frame, way);
        const values = before.keys.map((key) => key.value);
        const reach = Math.max(...values) - Math.min(...values);
        expect(after.keys.some((key) => key.frame === frame)).toBe(true);
        for (const at of EVERY) {
          const was = channelValueAt(before, at, way);
          // A part whose ends are all but equal cannot say how far it swings: that is left to a smaller tolerance.
          expect(Math.abs(channelValueAt(after, at, way) - was)).toBeLessThan(1e-6 + 0.05 * reach);
        }
      }),
      { numRuns: 60 },
    );
  });

  it('played backwards give the same values backwards', () => {
    fc.assert(
      fc.property(channel, interpolation, (before, way) => {
        fc.pre(before.keys.every((key) => key.ease.kind !== 'hold'));
        const frames = [...allOf(before)];
        const bounds = [Math.min(...frames), Math.max(...frames)] as const;
        const after = reverseKeys(before, allOf(before), bounds);
        for (let f = bounds[0]; f <= bounds[1]; f++) {
          const mirrored = bounds[0] + bounds[1] - f;
          expect(channelValueAt(after, mirrored, way)).toBeCloseTo(channelValueAt(before, f, way), 7);
        }
        expect(reverseKeys(after, allOf(after), bounds).keys.map((key) => key.value)).toEqual(
          before.keys.map((key) => key.value),
        );
      }),
    );
  });

  it('stretched by a whole factor give the same values so many times as late', () => {
    fc.assert(
      fc.property(channel, fc.integer({ min: 2, max: 5 }), interpolation, (before, factor, way) => {
        const first = before.keys[0]!.frame;
        const after = stretchKeys(before, allOf(before), first, factor);
        for (let f = first; f <= 90; f++) {
          expect(channelValueAt(after, first + (f - first) * factor, way)).toBeCloseTo(
            channelValueAt(before, f, way),
            9,
          );
        }
      }),
    );
  });

  it('never share a frame, and a rolled one stays between its neighbours', () => {
    fc.assert(
      fc.property(channel, fc.integer({ min: -200, max: 200 }), fc.nat(6), (before, to, which) => {
        const key = before.keys[which % before.keys.length]!;
        const rolled = rollKey(before, key.frame, to);
        expect(rolled.keys.map((k) => k.value)).toEqual(before.keys.map((k) => k.value));
        const laid = layKeys(before, [{ ...key, frame: 50, value: 7 }]);
        for (const { keys } of [rolled, laid, stretchKeys(before, allOf(before), 1, 0.2)]) {
          const frames = keys.map((k) => k.frame);
          expect(frames).toEqual([...new Set(frames)].sort((p, q) => p - q));
        }
      }),
    );
  });

  it('rest where they are told to, truly still, and the rest comes later', () => {
    fc.assert(
      fc.property(
        channel,
        fc.integer({ min: 1, max: 60 }),
        fc.integer({ min: 1, max: 24 }),
        (before, at, n) => {
          const after = restAt(before, at, n, { pushLater: true, interpolation: 'linear' });
          const still = channelValueAt(after, at, 'linear');
          for (let f = at; f <= at + n; f += 0.5) expect(channelValueAt(after, f, 'linear')).toBe(still);
          for (let f = at; f <= 90; f++) {
            const was = channelValueAt(before, f, 'linear');
            expect(Math.abs(channelValueAt(after, f + n, 'linear') - was)).toBeLessThan(
              0.02 * (1 + Math.abs(was)),
            );
          }
        },
      ),
    );
  });

  it('that are smoothed meet at one speed and stay between their values', () => {
    fc.assert(
      fc.property(channel, interpolation, (before, way) => {
        const smooth = smoothKeys(before, allOf(before), way);
        for (const [i, key] of smooth.keys.entries()) {
          const next = smooth.keys[i + 1];
          expect(speedsAtKey(smooth, i, way)?.jumps).toBe(false);
          if (!next) continue;
          for (let f = key.frame; f <= next.frame; f += 0.25) {
            const value = channelValueAt(smooth, f, way);
            expect(value).toBeGreaterThanOrEqual(Math.min(key.value, next.value) - 1e-9);
            expect(value).toBeLessThanOrEqual(Math.max(key.value, next.value) + 1e-9);
          }
        }
      }),
    );
  });

  it('say whether the speed jumps', () => {
    const keyed: Channel = {
      value: 0,
      keys: [
        { frame: 1, value: 0, ease: EASE_PRESETS.linear },
        { frame: 25, value: 100, ease: EASE_PRESETS.linear },
        { frame: 49, value: 150, ease: EASE_PRESETS['in-out'] },
        { frame: 73, value: 0, ease: EASE_PRESETS['in-out'] },
        { frame: 97, value: 60, ease: EASE_PRESETS.linear },
      ],
    };
    const jumps = keyed.keys.map((_, i) => speedsAtKey(keyed, i, 'linear')?.jumps);
    // From rest at full speed; 4.2 to 2.1 px a frame; a sudden stop; then two eased ones.
    expect(jumps).toEqual([true, true, true, false, false]);
    expect(speedsAtKey(keyed, 1, 'linear')?.before).toBeCloseTo(100 / 24, 6);
  });
});

describe('few keys for many values', () => {
  const count = 160;
  const shape = fc.record({
    swing: fc.double({ min: 1, max: 300, noNaN: true }),
    turns: fc.double({ min: 0.1, max: 6, noNaN: true }),
    rise: fc.double({ min: -4, max: 4, noNaN: true }),
    jump: fc.nat(count - 1),
  });

  it('are never farther off than they may be, at any frame', () => {
    fc.assert(
      fc.property(
        shape,
        fc.double({ min: 0.02, max: 5, noNaN: true }),
        ({ swing, turns, rise, jump }, tolerance) => {
          const values = Array.from(
            { length: count },
            (_, i) =>
              1000 + swing * Math.sin((2 * Math.PI * turns * i) / count) + rise * i + (i >= jump ? 50 : 0),
          );
          for (const way of ['linear', 'log', { logTo: 9000 }] as const) {
            const keys = reduceToKeys(values, 11, tolerance, way);
            const made: Channel = { value: 0, keys };
            const errors = values.map((value, i) => Math.abs(channelValueAt(made, 11 + i, way) - value));
            expect(Math.max(...errors)).toBeLessThanOrEqual(tolerance);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it('are as few as the curve has parts', () => {
    const ease1: Channel = {
      value: 0,
      keys: [
        { frame: 1, value: 0, ease: EASE_PRESETS['in-out'] },
        { frame: 60, value: 400, ease: EASE_PRESETS.linear },
      ],
    };
    const values = Array.from({ length: 60 }, (_, i) => channelValueAt(ease1, i + 1, 'linear'));
    // The two-sided ease is no cubic in time: a handful of cubics come within a tenth of a px of it.
    expect(reduceToKeys(values, 1, 0.1, 'linear').length).toBeLessThanOrEqual(6);
    expect(reduceToKeys(values, 1, 4, 'linear')).toHaveLength(3);
    expect(reduceToKeys(Array(50).fill(3), 1, 0.1, 'linear')).toHaveLength(1);
    const straight = Array.from({ length: 50 }, (_, i) => 2 * i);
    expect(reduceToKeys(straight, 1, 1e-9, 'linear')).toMatchObject([
      { frame: 1, value: 0, ease: { kind: 'linear' } },
      { frame: 50, value: 98 },
    ]);
  });
});
