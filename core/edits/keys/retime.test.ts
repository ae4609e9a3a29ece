import { describe, expect, it } from 'vitest';
import { keysOf, markersOf, planesOf, withPlaneList } from '../../scene/records/index.ts';
import type { SoundId } from '../../scene/sound/index.ts';
import { cameraPoseAt } from '../../staging/index.ts';
import { closeScenes, FAR, moving } from '../../testing/keyed-scenes.ts';
import { holdEnds, laySound, scaleShotLength, setMarker, setRateKeepingSeconds } from '../shot/index.ts';

describe('retiming the whole shot', () => {
  const running = withPlaneList(
    setMarker(moving, 60, 'lamp lit'),
    planesOf(moving).map((p) =>
      p.id === FAR
        ? {
            ...p,
            repeat: 'across' as const,
            run: {
              kind: 'speed' as const,
              unit: 'datum' as const,
              x: { value: -4, keys: {} },
              y: { value: 0, keys: {} },
            },
          }
        : p,
    ),
  );

  it('scales everything with the length', () => {
    const twice = scaleShotLength(running, 239);
    closeScenes(moving, twice, (f) => 1 + (f - 1) * 2);
    expect(markersOf(twice)).toMatchObject([{ frame: 119, note: 'lamp lit' }]);
    const run = planesOf(twice)[1]!.run;
    expect(run?.kind === 'speed' && run.x.value * 239).toBeCloseTo(-4 * 120, 9);
  });

  it('keeps seconds at another rate', () => {
    const film = setRateKeepingSeconds(running, { num: 48, den: 1 });
    expect(film.lengthFrames).toBe(240);
    closeScenes(moving, film, (f) => 1 + (f - 1) * 2);
    const ntsc = setRateKeepingSeconds(running, { num: 30_000, den: 1001 });
    expect(ntsc.lengthFrames).toBe(150);
    expect(keysOf(ntsc.camera.panX).map((k) => k.frame)).toEqual([1, 75, 137]);
  });

  it('keeps a sound with what it is heard to', () => {
    const id = 'a'.repeat(64) as SoundId;
    const sound = { id, name: 'bell.wav', durationSeconds: 2, startFrame: 49, volume: 1, muted: false };
    const heard = laySound(running, sound);
    expect(holdEnds(heard, 24, 12).sound).toEqual({ ...sound, startFrame: 73 });
    expect(scaleShotLength(heard, 239).sound?.startFrame).toBe(97);
    // Two seconds in, at any rate.
    expect(setRateKeepingSeconds(heard, { num: 12, den: 1 }).sound?.startFrame).toBe(25);
    expect(setRateKeepingSeconds(heard, { num: 48, den: 1 }).sound?.startFrame).toBe(97);
    const early = laySound(running, { ...sound, startFrame: -23 });
    expect(setRateKeepingSeconds(early, { num: 12, den: 1 }).sound?.startFrame).toBe(-11);
  });

  it('holds at its ends', () => {
    const held = holdEnds(running, 24, 12);
    expect(held.lengthFrames).toBe(156);
    closeScenes(moving, held, (f) => f + 24);
    for (let f = 1; f <= 25; f++) expect(cameraPoseAt(held, f)).toEqual(cameraPoseAt(held, 1));
  });
});
