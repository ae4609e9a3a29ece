import { describe, expect, it } from 'vitest';
import { planesOf } from '../../scene/records/index.ts';
import { readScene } from '../../staging/check/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { cameraPoseAt } from '../../staging/index.ts';
import { focusDepthAt } from '../../staging/looks/index.ts';
import { testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { moving, NEAR } from '../../testing/keyed-scenes.ts';
import { makeTrack } from '../camera/index.ts';
import { setPlaneDepth } from '../depth/index.ts';
import { setCamera } from '../keys/index.ts';
import { focusOn } from '../look/index.ts';
import { withSetUp } from './set-up.ts';
import { withoutMove } from './without-move.ts';

const sky = testPlane({ id: testPlaneId('sky'), name: 'Sky', depthSpx: 900 });
const boat = testPlane({ id: testPlaneId('boat'), name: 'Boat', mount: { on: 'plane', plane: sky.id } });
const given = setCamera(testScene([boat, sky]), { panX: 90 }, { frame: 1, keying: true });
const scene = testScene([testPlane({ id: testPlaneId('quay'), name: 'Sky' })]);
const idOf = (index: number) => testPlaneId(`new-${index}`);

describe('the set-up of another shot', () => {
  it('brings its planes in front of those that are there, staged and riding as they were', () => {
    const next = withSetUp(scene, given, 'planes', idOf);
    expect(planesOf(next).map(({ id, name, depthSpx }) => [id, name, depthSpx])).toEqual([
      [idOf(0), 'Boat', 0],
      [idOf(1), 'Sky 2', 900],
      [testPlaneId('quay'), 'Sky', 0],
    ]);
    expect(planesOf(next)[0]?.mount).toEqual({ on: 'plane', plane: idOf(1) });
    expect(next.camera).toEqual(scene.camera);
    expect(readScene(next).ok).toBe(true);
  });

  it('takes the place of all that was there', () => {
    expect(withSetUp(scene, given, 'everything', idOf)).toEqual(given);
  });
});

describe('a set-up without its move', () => {
  it('rests as it stands at frame 1: camera, planes and their tracks', () => {
    for (const scene of [moving, makeTrack(moving, { on: 'plane', plane: NEAR })!]) {
      const still = withoutMove(scene);
      expect(cameraPoseAt(still, 1)).toEqual(cameraPoseAt(scene, 1));
      expect(framePlan(still, 90)).toEqual({ ...framePlan(still, 1), frame: 90 });
      expect(readScene(still).ok).toBe(true);
    }
  });

  it('keeps the focus on the plane that it follows', () => {
    const followed = focusOn(moving, NEAR, { frame: 1, keying: true });
    const deeper = setPlaneDepth(followed, NEAR, { depthSpx: 640, atFrame: 1, holdPicture: false });
    const still = withoutMove(deeper);
    expect(focusDepthAt(still, 50)).toBe(640);
    const back = setPlaneDepth(still, NEAR, { depthSpx: 80, atFrame: 1, holdPicture: false });
    expect(focusDepthAt(back, 50)).toBe(80);
  });
});
