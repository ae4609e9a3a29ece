import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { BEYONDS, type Beyond } from './beyond.ts';
import { type Channel, channelValueAt } from './channel.ts';
import { EASE_PRESETS } from './ease.ts';
import type { Interpolation } from './interpolation.ts';
import { sampleChannel } from './sample-channel.ts';

const ease = EASE_PRESETS['in-out'];
/** Up from 10 to 40 over 4 frames, and down to 20 over 6. */
const bob: Channel = {
  value: 0,
  keys: [
    { frame: 5, value: 10, ease },
    { frame: 9, value: 40, ease },
    { frame: 15, value: 20, ease },
  ],
};
const withBeyond = (beyond: Beyond): Channel => ({ ...bob, before: beyond, after: beyond });
const at = (channel: Channel, frame: number, how: Interpolation = 'linear') =>
  channelValueAt(channel, frame, how);

describe('a channel beyond its keys', () => {
  it('rests where nothing is said, and when it is muted', () => {
    expect([at(bob, -50), at(bob, 900)]).toEqual([10, 20]);
    expect(at({ ...withBeyond('repeat'), muted: true }, 900)).toBe(0);
  });

  it('repeats: ten frames on it is the same again, and so it is ten frames back', () => {
    const channel = withBeyond('repeat');
    for (const frame of [6, 6.5, 9, 14]) {
      for (const round of [-3, -1, 1, 4])
        expect(at(channel, frame + 10 * round)).toBeCloseTo(at(bob, frame), 12);
    }
  });

  it('goes there and back: each turn runs the other way', () => {
    const channel = withBeyond('there-and-back');
    for (const by of [0, 1, 3.25, 10]) {
      expect(at(channel, 15 + by)).toBeCloseTo(at(bob, 15 - by), 12);
      expect(at(channel, 5 - by)).toBeCloseTo(at(bob, 5 + by), 12);
      expect(at(channel, 25 + by)).toBeCloseTo(at(bob, 5 + by), 12);
    }
  });

  it('goes on from where it ended: each round gains what the first did', () => {
    const channel = withBeyond('go-on');
    for (const round of [-2, -1, 1, 3])
      expect(at(channel, 7 + 10 * round)).toBeCloseTo(at(bob, 7) + 10 * round, 12);
  });

  it('gains in ratio where ratios are what counts, about the pivot where there is one', () => {
    const zoom = { ...withBeyond('go-on'), keys: [bob.keys[0]!, { frame: 15, value: 20, ease }] };
    // From 10 to 20 is twice as much: so is every round.
    for (const round of [-2, 1, 3]) expect(at(zoom, 15 + 10 * round, 'log')).toBeCloseTo(20 * 2 ** round, 9);
    // From 110 to 130 about 100 is from 10 to 30: three times as far from it each round.
    const truck = {
      ...zoom,
      keys: [
        { frame: 5, value: 110, ease },
        { frame: 15, value: 130, ease },
      ],
    };
    expect(at(truck, 25, { logTo: 100 })).toBeCloseTo(190, 9);
    expect(at(truck, -5, { logTo: 100 })).toBeCloseTo(100 + 10 / 3, 9);
  });

  it('does nothing of all this with a single key', () => {
    for (const beyond of BEYONDS) expect(at({ ...withBeyond(beyond), keys: [bob.keys[1]!] }, 99)).toBe(40);
  });

  it('never jumps but where a repeat begins anew', () => {
    for (const beyond of ['there-and-back', 'go-on'] as const) {
      const channel = withBeyond(beyond);
      for (let frame = -40; frame < 60; frame++)
        expect(Math.abs(at(channel, frame + 1e-7) - at(channel, frame - 1e-7))).toBeLessThan(1e-4);
    }
  });

  it('is sampled as it is asked frame by frame', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...BEYONDS, undefined),
        fc.constantFrom(...BEYONDS, undefined),
        fc.integer({ min: -60, max: 40 }),
        fc.integer({ min: 1, max: 90 }),
        (before, after, first, count) => {
          const channel = { ...bob, before, after };
          const sampled = sampleChannel(channel, first, count, 'linear');
          for (let i = 0; i < count; i++) expect(sampled[i]).toBeCloseTo(at(channel, first + i), 9);
        },
      ),
    );
  });
});
