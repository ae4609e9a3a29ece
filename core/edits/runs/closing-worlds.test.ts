import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { readScene } from '../../staging/check/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { loopReport } from '../../staging/loop/index.ts';
import { testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { closeLoop } from './close-loop.ts';
import { closingWorlds, timesRuns, worldSpeed } from './closing-worlds.ts';
import { runSpeedAt, runWorld } from './runs.ts';

/** Strips of these widths at these depths, run by one world. */
const world = (
  strips: readonly (readonly [number, number])[],
  pxAFrame: number,
  lengthFrames: number,
): Scene =>
  runWorld(
    testScene(
      strips.map(([widthPx, depthSpx], i) =>
        testPlane({ id: testPlaneId(`s${i}`), repeat: 'across', depthSpx }, widthPx, 300),
      ),
      { lengthFrames },
    ),
    pxAFrame,
  );
const speeds = (scene: Scene) => planesOf(scene).map((plane) => runSpeedAt(scene, plane, 1).datum.x);

describe('other speeds of a world', () => {
  // 24 frames at 37 px pass 888 of 960 px: 0.925 turns; half of that at half the speed on screen, which would stand still.
  const slow = world(
    [
      [960, 0],
      [1920, 0],
    ],
    -37,
    24,
  );

  it('are the nearest at which none but so many stand still and none is changed by over 5 %, worked by hand', () => {
    // One turn is a twentieth more than the fast strip's where the factor is 1/(0.925 · 1.05), than the slow one's at twice that.
    const worlds = closingWorlds(slow);
    expect(worlds.map(({ standing }) => standing)).toEqual([1, 0]);
    for (const [i, turns] of [0.925, 0.4625].entries()) {
      const least = 1 / (turns * 1.05);
      expect(worlds[i]?.factor).toBeGreaterThanOrEqual(least);
      expect(worlds[i]?.factor).toBeLessThan(least * 1.001);
      expect(worlds[i]?.worstError).toBeCloseTo(0.05, 2);
    }
    expect(worldSpeed(slow)).toBe(-37);
  });

  it('change a strip by more where there is no speed that changes it little', () => {
    // 0.48 turns beside 1.2: at 2.273 times the speed they are 1.091, a twelfth over one, and 2.727, a tenth short of three.
    const two = world(
      [
        [2000, 0],
        [5000, 0],
      ],
      -20,
      120,
    );
    const [, one] = closingWorlds(two);
    expect(one).toMatchObject({ standing: 0 });
    expect(one?.factor).toBeCloseTo(3 / (1.2 * 1.1), 2);
    expect(one?.worstError).toBeCloseTo(0.1, 2);
  });

  it('are never more than three times as fast: a strip that is slower still stands', () => {
    // A fifth of the speed of the first: 0.18 turns.
    const far = world(
      [
        [960, 0],
        [4800, 0],
      ],
      -37,
      24,
    );
    expect(closingWorlds(far).map(({ standing }) => standing)).toEqual([1]);
  });

  it('close with no more standing still than was said, and none changed by more', () => {
    const strips = fc.array(
      fc.tuple(fc.integer({ min: 300, max: 4000 }), fc.double({ min: -800, max: 9000, noNaN: true })),
      { minLength: 1, maxLength: 4 },
    );
    let seen = 0;
    fc.assert(
      fc.property(
        strips,
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 24, max: 200 }),
        (made, px, frames) => {
          const scene = world(made, px, frames);
          for (const { factor, standing, worstError } of closingWorlds(scene)) {
            seen++;
            const closed = closeLoop(timesRuns(scene, factor), 'speeds');
            expect(readScene(closed).ok).toBe(true);
            expect(loopReport(closed).every((item) => 'closed' in item && item.closed)).toBe(true);
            expect(loopReport(closed)).toHaveLength(made.length - standing);
            expect(framePlan(closed, frames + 1).planes).toEqual(framePlan(closed, 1).planes);
            const running = speeds(closed).filter((speed) => speed !== 0);
            const errors = running.map((speed) => Math.abs(speed / (px * factor) - 1));
            expect(Math.max(0, ...errors)).toBeCloseTo(worstError, 9);
          }
        },
      ),
      { numRuns: 60 },
    );
    expect(seen).toBeGreaterThan(20);
  });

  it('are none where it closes by little as it is', () => {
    // 192 frames at 12.5 px are three widths of 800.
    expect(closingWorlds(world([[800, 0]], -12.5, 192))).toEqual([]);
    expect(closingWorlds(closeLoop(world([[800, 0]], -12.3, 192), 'speeds'))).toEqual([]);
    expect(closingWorlds(testScene([testPlane({ id: testPlaneId('s') })]))).toEqual([]);
  });

  it('carry runs in whole cycles over, and what does not run stays', () => {
    const closed = closeLoop(slow, 'lengths');
    const [first, second] = speeds(timesRuns(closed, 2));
    expect([first, second]).toEqual(speeds(closed).map((speed) => 2 * speed));
    const still = testScene([testPlane({ id: testPlaneId('s'), repeat: 'across' })]);
    expect(timesRuns(still, 2)).toEqual(still);
  });
});
