import bezierEasing from 'bezier-easing';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Channel, channelValueAt, speedProfile } from './channel.ts';
import {
  EASE_PRESET_NAMES,
  EASE_PRESETS,
  type Ease,
  easePresetOf,
  easeProgress,
  reversedEase,
} from './ease.ts';
import { deleteKeys, moveKeys, putKey, setEase, shiftChannel } from './key-edits.ts';
import { framesOfSeconds, secondsOfFrames } from './rate.ts';

const LINEAR: Ease = { kind: 'linear' };
const channel = (...keys: [number, number, Ease?][]): Channel => ({
  value: 0,
  keys: keys.map(([frame, value, ease]) => ({ frame, value, ease: ease ?? LINEAR })),
});

describe('eases', () => {
  it('has the keyword values of W3C CSS Easing Functions Level 1, section 2.2.1', () => {
    expect(EASE_PRESET_NAMES).toHaveLength(5);
    expect(EASE_PRESETS.in).toEqual({ kind: 'bezier', x1: 0.42, y1: 0, x2: 1, y2: 1 });
    expect(EASE_PRESETS.out).toEqual({ kind: 'bezier', x1: 0, y1: 0, x2: 0.58, y2: 1 });
    expect(EASE_PRESETS['in-out']).toEqual({ kind: 'bezier', x1: 0.42, y1: 0, x2: 0.58, y2: 1 });
    for (const name of EASE_PRESET_NAMES) expect(easePresetOf(EASE_PRESETS[name])).toBe(name);
  });

  it('agrees with an independent implementation (bezier-easing 3.2) within 2e-5', () => {
    const unit = fc.double({ min: 0, max: 1, noNaN: true });
    const free = fc.double({ min: -1, max: 2, noNaN: true });
    fc.assert(
      fc.property(unit, free, unit, free, unit, (x1, y1, x2, y2, t) => {
        // Where the curve stands nearly upright in x its own table of samples is too coarse to compare with.
        fc.pre(Math.abs(x1 - x2) < 0.7 || x1 < x2);
        const ours = easeProgress({ kind: 'bezier', x1, y1, x2, y2 }, t);
        expect(Math.abs(ours - bezierEasing(x1, y1, x2, y2)(t))).toBeLessThan(2e-5);
      }),
      { seed: 5, numRuns: 500 },
    );
  });

  it.each([...EASE_PRESET_NAMES])('%s starts at 0 and ends at 1', (name) => {
    expect(easeProgress(EASE_PRESETS[name], 0)).toBe(0);
    expect(easeProgress(EASE_PRESETS[name], 1)).toBe(1);
  });

  it('holds until the very end of the span', () => {
    expect(easeProgress(EASE_PRESETS.hold, 0.999)).toBe(0);
  });

  it('is one of those names run backwards too, and itself again run backwards twice', () => {
    const turned = { linear: 'linear', hold: 'hold', in: 'out', out: 'in', 'in-out': 'in-out' } as const;
    for (const name of EASE_PRESET_NAMES) {
      expect(easePresetOf(reversedEase(EASE_PRESETS[name]))).toBe(turned[name]);
      expect(reversedEase(reversedEase(EASE_PRESETS[name]))).toEqual(EASE_PRESETS[name]);
    }
  });

  it('is symmetric in and out', () => {
    for (let t = 0; t <= 1; t += 0.05) {
      expect(easeProgress(EASE_PRESETS.in, t)).toBeCloseTo(1 - easeProgress(EASE_PRESETS.out, 1 - t), 12);
    }
  });
});

describe('channels', () => {
  it('rests before the first key and after the last, and without keys', () => {
    const keyed = channel([10, 5], [20, 9]);
    expect([1, 10, 15, 20, 99].map((f) => channelValueAt(keyed, f, 'linear'))).toEqual([5, 5, 7, 9, 9]);
    expect(channelValueAt({ value: 3, keys: [] }, 7, 'linear')).toBe(3);
  });

  it('grows zoom evenly: the same ratio each frame', () => {
    const zoom = channel([1, 1], [5, 16]);
    expect([1, 2, 3, 4, 5].map((f) => channelValueAt(zoom, f, 'log'))).toEqual([1, 2, 4, 8, 16]);
  });

  it('jumps at the key that ends a hold', () => {
    const held = channel([1, 0, EASE_PRESETS.hold], [11, 100]);
    expect(channelValueAt(held, 10.999, 'linear')).toBe(0);
    expect(channelValueAt(held, 11, 'linear')).toBe(100);
  });

  it('draws an even span as a constant speed and a hold as none', () => {
    expect(speedProfile(channel([1, 0], [11, 50]), 0, 4, 'linear')).toEqual([5, 5, 5, 5]);
    expect(speedProfile(channel([1, 0, EASE_PRESETS.hold], [11, 50]), 0, 4, 'linear')).toEqual([0, 0, 0, 0]);
    expect(speedProfile(channel([1, 0], [11, 50]), 1, 4, 'linear')).toEqual([]);
  });

  it('draws in-out slow at both ends and fastest in the middle', () => {
    const profile = speedProfile(channel([1, 0, EASE_PRESETS['in-out']], [101, 100]), 0, 20, 'linear');
    expect(profile[0]).toBeLessThan(0.2);
    expect(profile[19]).toBeLessThan(0.2);
    expect(Math.max(...profile)).toBeCloseTo(profile[10] ?? 0, 1);
    expect(profile.reduce((sum, v) => sum + v * 5, 0)).toBeCloseTo(100, 9);
  });
});

describe('keys', () => {
  it('replaces the value of a key that stands there and keeps its ease', () => {
    const before = channel([1, 0, EASE_PRESETS.in], [9, 4]);
    expect(putKey(before, 1, 7).keys[0]).toEqual({ frame: 1, value: 7, ease: EASE_PRESETS.in });
  });

  it('puts a key in order, with the ease of the span it splits', () => {
    const after = putKey(channel([1, 0, EASE_PRESETS.out], [9, 4]), 5, 2);
    expect(after.keys.map((key) => key.frame)).toEqual([1, 5, 9]);
    expect(after.keys[1]?.ease).toEqual(EASE_PRESETS.out);
  });

  it('never leaves two keys on one frame: the moved one wins', () => {
    const after = moveKeys(channel([1, 10], [5, 50], [9, 90]), new Set([1]), 4);
    expect(after.keys.map(({ frame, value }) => [frame, value])).toEqual([
      [5, 10],
      [9, 90],
    ]);
  });

  it('moves keys together past those that stay', () => {
    const after = moveKeys(channel([1, 1], [2, 2], [6, 6]), new Set([1, 2]), 3);
    expect(after.keys.map(({ frame, value }) => [frame, value])).toEqual([
      [4, 1],
      [5, 2],
      [6, 6],
    ]);
  });

  it('rests where the last key stood once it is deleted', () => {
    expect(deleteKeys(channel([4, 12]), new Set([4]))).toEqual({ value: 12, keys: [] });
  });

  it('sets the ease of the chosen spans only', () => {
    const after = setEase(channel([1, 0], [5, 1], [9, 2]), new Set([5]), EASE_PRESETS.hold);
    expect(after.keys.map((key) => key.ease.kind)).toEqual(['linear', 'hold', 'linear']);
  });

  it('shifts a whole channel without making a key', () => {
    const after = shiftChannel(channel([1, 0], [9, 8]), 5, 14, 'linear');
    expect(after.keys.map((key) => key.value)).toEqual([10, 18]);
    const zoom = shiftChannel(channel([1, 1], [9, 4]), 1, 2, 'log');
    expect(zoom.keys.map((key) => key.value)).toEqual([2, 8]);
    expect(shiftChannel({ value: 5, keys: [] }, 30, 9, 'linear')).toEqual({ value: 9, keys: [] });
  });
});

describe('rates', () => {
  it('makes 4 s at 25 a second 100 frames (common practice, no source)', () => {
    expect(framesOfSeconds(4, { num: 25, den: 1 })).toBe(100);
    expect(secondsOfFrames(24_000, { num: 24_000, den: 1001 })).toBe(1001);
  });
});
