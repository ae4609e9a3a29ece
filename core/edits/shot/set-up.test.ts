import { describe, expect, it } from 'vitest';
import { planesOf } from '../../scene/records/index.ts';
import { readScene } from '../../staging/check/index.ts';
import { testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { setCamera } from '../keys/index.ts';
import { withSetUp } from './set-up.ts';

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
