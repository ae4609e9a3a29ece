import { describe, expect, it } from 'vitest';
import type { PlaneId } from '../../scene/index.ts';
import { planeOf, planesOf } from '../../scene/records/index.ts';
import { standingsAt } from '../../staging/index.ts';
import { testArt, testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { drawingsAsPlanes, planesAsDrawings } from '../art/index.ts';
import { setChannelValue } from '../keys/index.ts';
import { pastePlanes, planesToCarry } from './between-shots.ts';
import { setPlaneMount } from './mounts.ts';

const [BOAT, LAMP, SKY] = ['boat', 'lamp', 'sky'].map(testPlaneId) as [PlaneId, PlaneId, PlaneId];
const base = testScene([
  testPlane({ id: LAMP, depthSpx: -200 }),
  testPlane({ id: BOAT, depthSpx: 300, locked: true }),
  testPlane({ id: SKY, depthSpx: 2000 }),
]);
const mounted = setPlaneMount(base, LAMP, { on: 'plane', plane: BOAT }, 1);
if (!mounted.ok) throw new Error(mounted.error);
const harbour = setChannelValue(mounted.value, { on: 'plane', plane: BOAT, name: 'y' }, 40, {
  frame: 20,
  keying: true,
});
const ids = (i: number) => testPlaneId(`new${i}`);

describe('planes carried to another shot', () => {
  it('bring depth, size and keys, under names and ids that are free, and keep what rides on them', () => {
    const carried = planesToCarry(harbour, new Set([LAMP, BOAT]), 1);
    const there = testScene([testPlane({ id: BOAT, name: 'boat' })]);
    const { scene, ids: made } = pastePlanes(there, carried, ids, null);
    expect(planesOf(scene).map(({ name }) => name)).toEqual(['lamp', 'boat 2', 'boat']);
    const [lamp, boat] = made.map((id) => planeOf(scene, id)!);
    expect([boat!.depthSpx, boat!.locked, lamp!.mount]).toEqual([
      300,
      false,
      { on: 'plane', plane: boat!.id },
    ]);
    expect(boat!.moves).toEqual(planeOf(harbour, BOAT)!.moves);
  });

  it('stand where they are seen when what they ride on stays behind', () => {
    const carried = planesToCarry(harbour, new Set([LAMP]), 20);
    const { scene } = pastePlanes(testScene([]), carried, ids, null);
    const before = standingsAt(harbour, 20).get(LAMP)!;
    const after = standingsAt(scene, 20).get(ids(0))!;
    expect(planesOf(scene)[0]?.mount).toEqual({ on: 'stage' });
    expect(after.depthSpx).toBeCloseTo(before.depthSpx, 6);
    expect(after.artToStage.f).toBeCloseTo(before.artToStage.f, 6);
  });

  it('go in front of the plane that is chosen', () => {
    const { scene } = pastePlanes(base, planesToCarry(base, new Set([SKY]), 1), ids, BOAT);
    expect(planesOf(scene).map(({ name }) => name)).toEqual(['lamp', 'sky 2', 'boat', 'sky']);
  });
});

describe('the drawings of a moving plane', () => {
  const walk = testPlane({
    id: BOAT,
    content: {
      kind: 'moving',
      exposures: [1, 2, 1].map((n) => ({ art: testArt(n), hold: 2 })),
      cycle: 'loop',
      startFrame: 1,
      rate: null,
    },
  });

  it('become planes of their own where it was, each once, and one moving plane again', () => {
    const scene = testScene([walk, testPlane({ id: SKY })]);
    const apart = drawingsAsPlanes(scene, BOAT, ids)!;
    expect(planesOf(apart).map(({ name, content }) => [name, content.kind])).toEqual([
      ['boat 1', 'still'],
      ['boat 2', 'still'],
      ['sky', 'still'],
    ]);
    const together = planesAsDrawings(apart, new Set([BOAT, ids(1)]));
    if (typeof together === 'string') throw new Error(together);
    const [plane, ...rest] = planesOf(together);
    expect([rest.length, plane?.id]).toEqual([1, BOAT]);
    expect(plane?.content.kind === 'moving' && plane.content.exposures.map(({ art }) => art.id)).toEqual(
      [1, 2].map((n) => testArt(n).id),
    );
    expect(drawingsAsPlanes(scene, SKY, ids)).toBeNull();
  });

  it('are refused where there is one alone, where one moves, and where their sizes differ', () => {
    const one = testPlane({ id: LAMP });
    const small = testPlane({ id: SKY, content: { kind: 'still', art: testArt(3, 20, 20), made: null } });
    expect(planesAsDrawings(testScene([one]), new Set([LAMP]))).toBe('fewer-than-two');
    expect(planesAsDrawings(testScene([one, walk]), new Set([LAMP, BOAT]))).toBe('not-still');
    expect(planesAsDrawings(testScene([one, small]), new Set([LAMP, SKY]))).toBe('sizes-differ');
  });
});
