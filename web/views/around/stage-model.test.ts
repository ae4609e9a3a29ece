import { setCamera } from '@keen-ridge/core/edits/keys';
import { testPlane, testPlaneId, testScene } from '@keen-ridge/core/testing';
import { describe, expect, it } from 'vitest';
import { cardsOf, coneOf } from './stage-model.ts';

const [A, B] = ['a', 'b'].map(testPlaneId) as [
  ReturnType<typeof testPlaneId>,
  ReturnType<typeof testPlaneId>,
];

describe('the stage seen from around', () => {
  it('has each plane as a card where it stands, Y up and depth away from the viewer', () => {
    const scene = testScene([testPlane({ id: A, depthSpx: 700 }), testPlane({ id: B, hidden: true })]);
    const [card, ...more] = cardsOf(scene, 1);
    expect(more).toEqual([]);
    expect(card?.corners).toEqual([
      [-200, 150, -700],
      [200, 150, -700],
      [200, -150, -700],
      [-200, -150, -700],
    ]);
    expect(card?.uvs).toEqual([
      [0, 1],
      [1, 1],
      [1, 0],
      [0, 0],
    ]);
  });

  it('takes what rides on the camera along with it', () => {
    const scene = testScene([testPlane({ id: A, mount: { on: 'camera' } })]);
    const moved = setCamera(scene, { panX: 300, truck: 500 }, { frame: 1, keying: false });
    expect(cardsOf(moved, 1)[0]?.corners[0]).toEqual([100, 150, -500]);
  });

  it('opens the cone from the camera to the corners of its frame, twice as wide at twice the distance', () => {
    const scene = testScene([testPlane({ id: A, depthSpx: 1920 })]);
    const { apex, onDatum, farthest } = coneOf(scene, 1);
    expect(apex).toEqual([0, -0, 1920]);
    expect(onDatum?.[0]).toEqual([-960, 540, -0]);
    expect(farthest[2]).toEqual([1920, -1080, -1920]);
  });
});
