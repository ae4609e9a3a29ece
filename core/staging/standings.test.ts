import { describe, expect, it } from 'vitest';
import { applyAffine } from '../geometry/index.ts';
import { planeOf, recordOf } from '../scene/records/index.ts';
import { testPlane, testPlaneId, testScene } from '../testing/index.ts';
import { EASE_PRESETS } from '../timing/index.ts';
import { framePlan } from './frame/index.ts';
import { standingsAt } from './standings.ts';

const [POST, LANTERN] = [testPlaneId('post'), testPlaneId('lantern')];

describe('a lantern on a post, as docs/stage.md works it out by hand', () => {
  const post = testPlane({ id: POST, depthSpx: 300 });
  const lantern = testPlane({
    id: LANTERN,
    depthSpx: 50,
    mount: { on: 'plane', plane: POST },
    moves: {
      x: recordOf({
        value: 0,
        keys: [
          { frame: 1, value: 0, ease: EASE_PRESETS.linear },
          { frame: 10, value: 5, ease: EASE_PRESETS.linear },
        ],
      }),
    },
  });
  const scene = testScene([
    { ...lantern, transform: { ...lantern.transform, xSpx: 40 } },
    { ...post, transform: { ...post.transform, scaleX: 2, scaleY: 2 } },
  ]);
  const anchor = (() => {
    const { anchorXArtPx: x, anchorYArtPx: y } = planeOf(scene, LANTERN)!.transform;
    return { x, y };
  })();

  it('stands at 300 + 2 · 50, and 2 · 40 or 2 · 45 px east', () => {
    const at = (frame: number) => {
      const { depthSpx, artToStage } = standingsAt(scene, frame).get(LANTERN)!;
      return [depthSpx, applyAffine(artToStage, anchor).x];
    };
    expect([at(1), at(10)]).toEqual([
      [400, 80],
      [400, 90],
    ]);
  });

  it('lands 90 · 1920/2320 output px east of the middle', () => {
    const { artToFrame } = framePlan(scene, 10).planes.find(({ planeId }) => planeId === LANTERN)!;
    expect(applyAffine(artToFrame!, anchor).x - 960).toBeCloseTo((90 * 1920) / 2320, 9);
    expect((90 * 1920) / 2320).toBeCloseTo(74.48, 2);
  });
});
