import type { Sound, SoundId } from '@keen-ridge/core/scene/sound';
import { describe, expect, it } from 'vitest';
import { type Heard, SoundFollower, type Speaker } from './sound-follower.ts';

const sound: Sound = {
  id: 'a'.repeat(64) as SoundId,
  name: 'waves.ogg',
  durationSeconds: 2,
  startFrame: 13,
  volume: 0.5,
  muted: false,
};

function listening() {
  const said: string[] = [];
  const speaker = {
    now: 10,
    start: ({ from, speed, volume, lasts }: Parameters<Speaker['start']>[0]) =>
      void said.push(
        `from ${from.toFixed(3)} × ${speed} at ${volume}${lasts ? ` for ${lasts.toFixed(3)}` : ''}`,
      ),
    stop: () => void said.push('stop'),
  };
  const follower = new SoundFollower(speaker);
  let heard: Heard = { sound, rate: { num: 24, den: 1 }, frame: 1, playing: false, speed: 1 };
  return {
    said,
    /** After so many seconds on the speaker's clock. */
    next: (part: Partial<Heard>, seconds = 0) => {
      speaker.now += seconds;
      heard = { ...heard, ...part };
      follower.follow(heard);
      return said.splice(0);
    },
  };
}

describe('the sound of a shot', () => {
  it('begins with its frame while the shot plays, and is left alone as long as it keeps time', () => {
    const { next } = listening();
    next({});
    expect(next({ playing: true })).toEqual([]);
    expect(next({ frame: 12 }, 11 / 24)).toEqual([]);
    expect(next({ frame: 13 }, 1 / 24)).toEqual(['stop', 'from 0.000 × 1 at 0.5']);
    expect(next({ frame: 25 }, 12 / 24)).toEqual([]);
    // A picture that comes late by a frame is no reason to stutter.
    expect(next({ frame: 36 }, 12 / 24)).toEqual([]);
    expect(next({ playing: false })).toEqual(['stop']);
  });

  it('goes on where the playhead is when it jumps, loops, or another volume is set', () => {
    const { next } = listening();
    next({});
    next({ playing: true, frame: 37 });
    expect(next({ frame: 14 }, 1 / 24)).toEqual(['stop', 'from 0.042 × 1 at 0.5']);
    expect(next({ sound: { ...sound, volume: 1 } })).toEqual(['stop', 'from 0.042 × 1 at 1']);
    expect(next({ frame: 61 }, 2)).toEqual(['stop']);
  });

  it('plays slower with the shot, and is silent where play takes the time that it takes', () => {
    const { next } = listening();
    next({});
    expect(next({ playing: true, frame: 13, speed: 0.5 })).toEqual(['stop', 'from 0.000 × 0.5 at 0.5']);
    expect(next({ frame: 25 }, 1)).toEqual([]);
    expect(next({ speed: null })).toEqual(['stop']);
  });

  it('gives a grain of each frame that is scrubbed over, and none of a frame that stays', () => {
    const { next } = listening();
    next({});
    expect(next({ frame: 25 })).toEqual(['stop', 'from 0.500 × 1 at 0.5 for 0.060']);
    expect(next({})).toEqual([]);
    expect(next({ frame: 5 })).toEqual([]);
    expect(next({ frame: 20, rate: { num: 10, den: 1 } })).toEqual([
      'stop',
      'from 0.700 × 1 at 0.5 for 0.100',
    ]);
  });

  it('is silent while muted, or once it is taken away', () => {
    const { next } = listening();
    next({});
    next({ playing: true, frame: 20 });
    expect(next({ sound: { ...sound, muted: true } })).toEqual(['stop']);
    expect(next({ sound, frame: 21 })).toEqual(['stop', 'from 0.333 × 1 at 0.5']);
    expect(next({ sound: null })).toEqual(['stop']);
  });
});
