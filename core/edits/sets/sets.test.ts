import { describe, expect, it } from 'vitest';
import type { PlaneId, Scene, SetId } from '../../scene/index.ts';
import { planeOf, planesOf } from '../../scene/records/index.ts';
import { testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { setPlaneDepth } from '../depth/index.ts';
import { deletePlanes } from '../planes/index.ts';
import {
  changedIn,
  followAgain,
  followersOf,
  followingSet,
  followSet,
  type PlanesOfSet,
  planesForSet,
  setAsHere,
  withOwnCopies,
  withSet,
  withSetIds,
} from './sets.ts';

const SET = '11111111-2222-4333-8444-555555555555' as SetId;
const [QUAY, LAMP, HERO] = ['quay', 'lamp', 'hero'].map(testPlaneId) as [PlaneId, PlaneId, PlaneId];

/** A lamp rides on the quay; the hero belongs to the shot alone. */
const first: Scene = testScene([
  testPlane({ id: HERO }),
  testPlane({ id: LAMP, mount: { on: 'plane', plane: QUAY } }),
  testPlane({ id: QUAY, depthSpx: 500 }),
]);
const set: PlanesOfSet = { id: SET, planes: planesForSet(first, new Set([QUAY, LAMP]), 1) };
const shotA = followingSet(first, set);
const second = withSet(testScene([testPlane({ id: HERO })]), set, (i) => testPlaneId(`new-${i}`));
const shotB = second.scene;
const inB = (plane: PlaneId) => planesOf(shotB).find(({ ofSet }) => ofSet?.plane === plane)!;
const deeper = (scene: Scene, id: PlaneId, depthSpx: number) =>
  withOwnCopies(scene, setPlaneDepth(scene, id, { depthSpx, atFrame: 1, holdPicture: true }));

describe('sets', () => {
  it('are used by a second shot, which follows: depth, place, and what rides on what', () => {
    expect(followersOf(shotB, SET)).toHaveLength(2);
    expect(inB(LAMP).mount).toEqual({ on: 'plane', plane: inB(QUAY).id });
    expect(inB(QUAY)).toMatchObject({ depthSpx: 500, ofSet: { set: SET, plane: QUAY, follows: true } });
    // What is used already is not put in twice.
    expect(withSet(shotB, set, (i) => testPlaneId(`twice-${i}`)).ids).toEqual([]);
  });

  it('leave a shot its own copy of a plane that it changes, and of no other', () => {
    const own = deeper(shotA, QUAY, 900);
    expect(planeOf(own, QUAY)?.ofSet?.follows).toBe(false);
    expect(followersOf(own, SET)).toEqual([LAMP]);
    const hidden = {
      ...shotA,
      planes: { ...shotA.planes, [QUAY]: { ...shotA.planes[QUAY]!, hidden: true } },
    };
    expect(withOwnCopies(shotA, hidden)).toBe(hidden);
    expect(withOwnCopies(shotA, shotA)).toBe(shotA);
  });

  it('take on what one shot gives, and all that follow have it: a depth set right, with its size', () => {
    const own = deeper(shotA, QUAY, 900);
    const changed = { id: SET, planes: setAsHere(own, set, new Set([QUAY])) };
    const followed = followSet(shotB, changed);
    const [here, there] = [planeOf(own, QUAY)!, planeOf(followed, inB(QUAY).id)!];
    expect(there.depthSpx).toBe(900);
    expect(there.transform).toEqual(here.transform);
    expect(there.name).toBe(inB(QUAY).name);
    expect(there.ofSet?.follows).toBe(true);
    // A shot's own copy does not follow until it is told to.
    const ownB = deeper(shotB, inB(QUAY).id, 100);
    expect(planeOf(followSet(ownB, changed), inB(QUAY).id)?.depthSpx).toBe(100);
    const again = followAgain(ownB, changed, new Set([inB(QUAY).id]));
    expect(planeOf(again, inB(QUAY).id)).toMatchObject({ depthSpx: 900, ofSet: { follows: true } });
  });

  it('tell which of their planes a change alters: those that follow others stay as they are', () => {
    expect(changedIn(set, setAsHere(deeper(shotA, QUAY, 900), set, new Set([QUAY])))).toEqual(
      new Set([QUAY]),
    );
    expect(changedIn(set, setAsHere(shotA, set, new Set([QUAY, LAMP])))).toEqual(new Set());
    expect(changedIn(set, [])).toEqual(new Set([QUAY, LAMP]));
  });

  it('give what they no longer hold to the shot, and put on the stage what rode on a deleted plane', () => {
    const smaller = { id: SET, planes: set.planes.filter(({ id }) => id !== LAMP) };
    expect(planeOf(followSet(shotB, smaller), inB(LAMP).id)).not.toHaveProperty('ofSet');
    const without = deletePlanes(shotB, new Set([inB(QUAY).id]));
    expect(planeOf(followSet(without, set), inB(LAMP).id)?.mount).toEqual({ on: 'stage' });
  });

  it('drop a field that the set does not say, and keep it the same where nothing changed', () => {
    const glowing = setAsHere(shotA, set, new Set()).map((plane) => ({ ...plane, mode: 'screen' as const }));
    const lit = followSet(shotB, { id: SET, planes: glowing });
    expect(inB(QUAY).mode).toBeUndefined();
    expect(planeOf(lit, inB(QUAY).id)?.mode).toBe('screen');
    expect(planeOf(followSet(lit, set), inB(QUAY).id)).not.toHaveProperty('mode');
    expect(followSet(shotB, set)).toEqual(shotB);
  });

  it('go by other ids in another store; an unknown set leaves its planes to the shot', () => {
    const other = '99999999-2222-4333-8444-555555555555' as SetId;
    expect(planesOf(withSetIds(shotA, () => other)).map(({ ofSet }) => ofSet?.set)).toEqual([
      undefined,
      other,
      other,
    ]);
    expect(planesOf(withSetIds(shotA, () => null)).some(({ ofSet }) => ofSet)).toBe(false);
  });
});
