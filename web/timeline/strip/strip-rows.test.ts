import { makeTrack } from '@keen-ridge/core/edits/camera';
import { setChannelValue } from '@keen-ridge/core/edits/keys';
import type { Scene } from '@keen-ridge/core/scene';
import { channelId } from '@keen-ridge/core/staging';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { slidWindow, timeScale, WHOLE_STRIP, zoomedWindow } from '../time-scale.ts';
import { runsOf } from './ruler-strip.tsx';
import { stripRows } from './strip-rows.ts';

const GULL = testPlaneId('gull');
const still = testScene([testPlane({ id: GULL, name: 'Gull' }), testPlane({ id: testPlaneId('sky') })]);
const keyed = [1, 40].reduce<Scene>(
  (scene, frame) =>
    (['x', 'y'] as const).reduce(
      (s, name) => setChannelValue(s, { on: 'plane', plane: GULL, name }, frame, { frame, keying: true }),
      scene,
    ),
  still,
);
const titles = (scene: Scene, pinned: string[] = [], folded: string[] = []) =>
  stripRows(scene, pinned, folded).map((row) => (row.kind === 'group' ? row.name : row.id));

describe('rows of the strip', () => {
  it('of the Look step are those of light alone: four at first, more with their keys', () => {
    const rows = (scene: Scene) =>
      stripRows(scene, [], [], 'look').map((row) => (row.kind === 'group' ? row.name : row.id));
    const first = ['Camera', ...['focus', 'iris', 'brightness', 'glow'].map((n) => `camera/${n}`)];
    expect(rows(keyed)).toEqual(first);
    const lit = (['vignette', 'tint'] as const).reduce(
      (scene, name) => setChannelValue(scene, { on: 'camera', name }, 1, { frame: 9, keying: true }),
      setChannelValue(keyed, { on: 'plane', plane: GULL, name: 'softEdge' }, 8, { frame: 1, keying: true }),
    );
    expect(rows(lit)).toEqual([
      'Camera',
      ...['focus', 'iris', 'brightness', 'tint', 'glow', 'vignette'].map((n) => `camera/${n}`),
      'Gull',
      'plane/softEdge/gull',
    ]);
    expect(titles(lit).filter((title) => title.startsWith('camera/'))).toContain('camera/vignette');
  });

  it('are the camera, and planes only where they have keys or were pinned', () => {
    expect(titles(still)).toEqual([
      'Camera',
      ...['panX', 'panY', 'truck', 'zoom', 'roll'].map((n) => `camera/${n}`),
    ]);
    expect(titles(keyed).slice(6)).toEqual(['Gull', 'plane/x/gull', 'plane/y/gull']);
    const turn = channelId({ on: 'plane', plane: GULL, name: 'rotation' });
    expect(titles(keyed, [turn]).slice(6)).toEqual([
      'Gull',
      'plane/x/gull',
      'plane/y/gull',
      'plane/rotation/gull',
    ]);
    // A plane that does not run has no run to pin.
    expect(titles(still, [channelId({ on: 'plane', plane: GULL, name: 'runX' })])).toHaveLength(6);
  });

  it('fold into whole moves that know all their frames', () => {
    const rows = stripRows(keyed, [], ['camera', GULL]);
    expect(rows.map((row) => row.kind)).toEqual(['group', 'group']);
    expect(rows[1]).toMatchObject({
      frames: [1, 40],
      folded: true,
      channels: ['plane/x/gull', 'plane/y/gull'],
    });
  });

  it('give way to a track that stands for them', () => {
    const tracked = makeTrack(keyed, { on: 'plane', plane: GULL })!;
    expect(titles(tracked).slice(6)).toEqual(['Gull', 'plane/track/gull']);
  });
});

describe('the part of time that is seen', () => {
  it('zooms about a frame that stays where it is, and never past the ends', () => {
    for (const x of [60, 400, 900]) {
      const before = timeScale(10_000, 1000);
      const zoomed = zoomedWindow(WHOLE_STRIP, 10_000, 1000, 8, x);
      const after = timeScale(10_000, 1000, zoomed);
      expect(after.pxPerFrame).toBeCloseTo(before.pxPerFrame * 8, 9);
      expect(Math.abs(after.frameAt(x) - before.frameAt(x))).toBeLessThanOrEqual(1);
      expect(after.xAt(1)).toBeLessThanOrEqual(10 + 1e-9);
      expect(after.xAt(10_000)).toBeGreaterThanOrEqual(990 - 1e-6);
    }
    expect(zoomedWindow({ zoom: 8, start: 500 }, 10_000, 1000, 0.01, 300)).toEqual({ zoom: 1, start: 1 });
    expect(slidWindow({ zoom: 2, start: 1 }, 101, 500)).toEqual({ zoom: 2, start: 51 });
    expect(slidWindow({ zoom: 2, start: 20 }, 101, -500)).toEqual({ zoom: 2, start: 1 });
  });

  it('asks only for the frames in it', () => {
    const { first, last } = timeScale(10_000, 1000, { zoom: 100, start: 4000 });
    expect([first, last]).toEqual([3997, 4103]);
  });

  it('joins frames that follow one another', () => {
    expect(runsOf([1, 2, 3, 7, 9, 10])).toEqual([
      [1, 3],
      [7, 7],
      [9, 10],
    ]);
  });
});
