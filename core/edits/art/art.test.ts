// Over 400 lines: the next version of a painting, and of one that was cut, are told on paintings that are built up step by step here.
import { describe, expect, it } from 'vitest';
import { applyAffine } from '../../geometry/index.ts';
import { cutRecipeSchema, type Plane } from '../../scene/index.ts';
import { planeOf, planesOf, recordOf, withPlaneList } from '../../scene/records/index.ts';
import { artToCarrier } from '../../stage/index.ts';
import { readScene } from '../../staging/check/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { standingsAt } from '../../staging/index.ts';
import { edgeGaps } from '../../survey/index.ts';
import {
  asVersion5,
  paintedLayer,
  testArt,
  testPlane,
  testPlaneId,
  testScene,
  thereAndBack,
} from '../../testing/index.ts';
import { EASE_PRESETS } from '../../timing/index.ts';
import { setPlaneDepth } from '../depth/index.ts';
import { setCamera } from '../keys/index.ts';
import {
  copyOfPlane,
  insertPlanes,
  nudgePlanes,
  renameGroup,
  reorderPlanes,
  setPlanesGroup,
  setPlanesLocked,
  setPlaneTransform,
  tidyName,
  uniqueTidyNames,
} from '../planes/index.ts';
import { addCard, coverCard } from './cards.ts';
import { type CutResult, changeCut, cutPlane, cutStepsOf, stepsOfPiece } from './cut-plane.ts';
import { applyNewVersion, cutsToMake, type Likeness, matchLayers } from './new-version.ts';
import { planeFromLayer } from './place-art.ts';

const [A, B, C, D] = ['a', 'b', 'c', 'd'].map(testPlaneId) as [
  Plane['id'],
  Plane['id'],
  Plane['id'],
  Plane['id'],
];
const four = testScene([A, B, C, D].map((id) => testPlane({ id })));
const order = (planes: readonly Plane[]) => planes.map(({ id }) => id).join('');

describe('order, groups and locks', () => {
  it('moves several planes together, in their own order', () => {
    expect(order(planesOf(reorderPlanes(four, new Set([D, B]), A)))).toBe('bdac');
    expect(order(planesOf(reorderPlanes(four, new Set([A, B]), null)))).toBe('cdab');
    expect(order(planesOf(reorderPlanes(four, new Set([A, B]), B)))).toBe('abcd');
  });

  it('brings a group together at its first plane, and renames it into another', () => {
    const grouped = setPlanesGroup(four, new Set([A, C]), ' Quay ');
    expect(order(planesOf(grouped))).toBe('acbd');
    expect(planesOf(grouped).map(({ group }) => group)).toEqual(['Quay', 'Quay', null, null]);
    const both = setPlanesGroup(grouped, new Set([D]), 'Sea');
    expect(
      planesOf(renameGroup(both, 'Sea', 'Quay'))
        .map(({ id }) => id)
        .join(''),
    ).toBe('acdb');
    expect(planesOf(setPlanesGroup(grouped, new Set([A]), null))[0]?.group).toBeNull();
  });

  it('leaves a locked plane where it is', () => {
    const locked = setPlanesLocked(four, new Set([A]), true);
    expect(setPlaneDepth(locked, A, { depthSpx: 500, atFrame: 1, holdPicture: true })).toEqual(locked);
    expect(setPlaneTransform(locked, A, { xSpx: 9 })).toEqual(locked);
  });
});

describe('planes that are moved together', () => {
  it('slide by the same way on their planes, the locked ones not at all', () => {
    const locked = setPlanesLocked(setPlaneTransform(four, B, { xSpx: 7, ySpx: 1 }), new Set([C]), true);
    const moved = nudgePlanes(locked, new Set([A, B, C]), 30, -4.5);
    expect(planesOf(moved).map(({ transform }) => [transform.xSpx, transform.ySpx])).toEqual([
      [30, -4.5],
      [37, -3.5],
      [0, 0],
      [0, 0],
    ]);
  });
});

describe('names', () => {
  it.each([
    ['quay_houses.png', 'Quay houses'],
    ['  tower   copy 2', 'Tower'],
    ['Rock (copy)', 'Rock'],
    ['___', 'Untitled'],
    ['Nachtlicht', 'Nachtlicht'],
  ])('%s becomes %s', (from, to) => {
    expect(tidyName(from)).toBe(to);
  });

  it('are each used once', () => {
    expect(uniqueTidyNames(['rock', 'Rock copy', 'rock_', 'Rock 2'])).toEqual([
      'Rock',
      'Rock 2',
      'Rock 3',
      'Rock 2 2',
    ]);
  });
});

describe('cards', () => {
  const moved = setCamera(
    setCamera(testScene([], { lengthFrames: 30 }), { panX: -400, roll: 3 }, { frame: 1, keying: true }),
    { panX: 900, truck: 700, zoom: 0.8 },
    { frame: 30, keying: true },
  );
  const paint = { kind: 'solid', colour: '#223344', opacity: 1 } as const;

  it.each([0, 2500, -600])(
    'cover every frame of the move at depth %i, and no more than they need',
    (depthSpx) => {
      const scene = addCard(moved, { id: A, name: 'Sky', paint, depthSpx });
      const card = planesOf(scene)[0] as Plane;
      expect(edgeGaps(scene, card)).toEqual([]);
      const small = setPlaneTransform(scene, A, { scaleX: 0.9, scaleY: 0.9 });
      expect(edgeGaps(small, planesOf(small)[0] as Plane).length).toBeGreaterThan(0);
      expect(readScene(scene).ok).toBe(true);
    },
  );

  it('are fitted anew when the move has changed; other planes are not', () => {
    const scene = addCard(moved, { id: A, name: 'Sky', paint, depthSpx: 0 });
    const wider = setCamera(scene, { panX: 3000 }, { frame: 30, keying: true });
    expect(edgeGaps(wider, planesOf(wider)[0] as Plane).length).toBeGreaterThan(0);
    const covered = coverCard(wider, A);
    expect(edgeGaps(covered, planesOf(covered)[0] as Plane)).toEqual([]);
    expect(coverCard(four, A)).toBe(four);
  });
});

describe('copies', () => {
  it('are flipped, turned and squashed where they stand, under a free name', () => {
    const plane = testPlane({ id: A, name: 'Rock' });
    const scene = testScene([plane, testPlane({ id: B, name: 'Rock 2' })]);
    const look = { flipX: true, flipY: false, turnDeg: 10, squashX: 0.5, squashY: 2, shiftXSpx: 30 };
    const copy = copyOfPlane(scene, A, C, look);
    expect(copy).toMatchObject({
      name: 'Rock 3',
      transform: { scaleX: -0.5, scaleY: 2, rotationDeg: 10, xSpx: 30 },
    });
    expect(order(planesOf(insertPlanes(scene, copy ? [copy] : [], A)))).toBe('cab');
    expect(copyOfPlane(scene, D, C, look)).toBeNull();
  });
});

describe('the next version of a painting', () => {
  const file = { file: 'cliff.psd', paintingWidthPx: 3000, paintingHeightPx: 1000 };
  const layers = ['Sky', 'Hill', 'Tower'].map((name, i) =>
    paintedLayer({
      name,
      group: name === 'Tower' ? 'Far' : null,
      art: testArt(i + 1, 400, 300),
      xPx: 100 * i,
      yPx: 20 * i,
      ...file,
    }),
  );
  const planes = layers.map((layer, i) => planeFromLayer([A, B, C][i] as Plane['id'], layer));
  const staged = setPlaneDepth(testScene(planes), B, { depthSpx: 900, atFrame: 1, holdPicture: true });
  const looks = (values: readonly number[]): Likeness[] => values.map((v) => Array(256).fill(v));
  const planeLikenesses = new Map([A, B, C].map((id, i) => [id, looks([10, 90, 170])[i] as Likeness]));
  /** Where px (x, y) of the painting lands on the stage. */
  const onStage = (plane: Plane, x: number, y: number, finer = 1) =>
    applyAffine(artToCarrier(plane.transform), {
      x: x * finer - (plane.origin?.xPx ?? 0),
      y: y * finer - (plane.origin?.yPx ?? 0),
    });

  it('matches by name in its group, by name, by tidied name, then by look', () => {
    const next = [
      paintedLayer({ name: 'sky copy', art: testArt(11), ...file }),
      paintedLayer({ name: 'Tower', art: testArt(13), ...file }),
      paintedLayer({ name: 'Berg', art: testArt(12), ...file }),
      paintedLayer({ name: 'Moon', art: testArt(14), ...file }),
    ];
    const matches = matchLayers(planes, next, {
      layerLikenesses: looks([200, 200, 96, 240]),
      planeLikenesses,
    });
    expect(matches).toEqual([
      { kind: 'same-name', planeId: C, layerIndex: 1 },
      { kind: 'same-name', planeId: A, layerIndex: 0 },
      { kind: 'same-likeness', planeId: B, layerIndex: 2 },
      { kind: 'added', layerIndex: 3 },
    ]);
    const without = matchLayers(planes, [next[3]!], { layerLikenesses: looks([240]), planeLikenesses });
    expect(without.filter(({ kind }) => kind === 'lost')).toHaveLength(3);
  });

  it('keeps depth and place of every px, though layers are cropped otherwise and painted twice as fine', () => {
    const finer = layers.map((layer, i) => ({
      ...layer,
      art: testArt(20 + i, 900, 640),
      xPx: layer.xPx * 2 - 37,
      yPx: layer.yPx * 2 + 11,
      paintingWidthPx: 6000,
      paintingHeightPx: 2000,
    }));
    const matches = matchLayers(planes, finer, { layerLikenesses: [null, null, null], planeLikenesses });
    const after = applyNewVersion(staged, { layers: finer, matches, idOf: () => D, removeLost: false });
    planesOf(staged).forEach((before, i) => {
      const plane = planesOf(after)[i] as Plane;
      expect(plane).toMatchObject({ id: before.id, name: before.name, depthSpx: before.depthSpx });
      for (const [x, y] of [
        [0, 0],
        [250, 140],
      ] as const) {
        const [p, q] = [onStage(before, x, y), onStage(plane, x, y, 2)];
        expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-9);
      }
    });
    expect(thereAndBack(staged, after).back).toEqual(staged);
  });

  it.each([
    ['twice as fine', 2],
    ['half as fine', 0.5],
  ])('keeps what rides on a plane where it was, when that is painted %s', (_how, factor) => {
    const [carrier, second] = [planesOf(staged)[0] as Plane, planesOf(staged)[1] as Plane];
    const key = (frame: number, value: number) => ({ frame, value, ease: EASE_PRESETS.linear });
    const channel = (to: number) => ({ value: 0, keys: [key(1, 0), key(120, to)] });
    // A rider that moves by itself, and one more that rides on the rider.
    const rider: Plane = {
      ...testPlane({ id: testPlaneId('rider') }),
      mount: { on: 'plane', plane: carrier.id },
      depthSpx: 120,
      transform: {
        ...testPlane({ id: testPlaneId('rider') }).transform,
        xSpx: 70,
        ySpx: -30,
        scaleX: 0.5,
        scaleY: 0.4,
      },
      moves: { x: recordOf(channel(200)), depth: recordOf(channel(80)) },
    };
    const on: Plane = {
      ...testPlane({ id: testPlaneId('on') }),
      mount: { on: 'plane', plane: rider.id },
      depthSpx: -40,
      moves: { y: recordOf(channel(33)) },
    };
    const ridden = withPlaneList(staged, [on, rider, ...planesOf(staged)]);
    const finer = layers.map((layer, i) => ({
      ...layer,
      art: testArt(20 + i, 450 * factor, 320 * factor),
      xPx: layer.xPx * factor,
      yPx: layer.yPx * factor,
      paintingWidthPx: layer.paintingWidthPx * factor,
      paintingHeightPx: layer.paintingHeightPx * factor,
    }));
    const matches = matchLayers(planesOf(ridden), finer, {
      layerLikenesses: [null, null, null],
      planeLikenesses,
    });
    const after = applyNewVersion(ridden, { layers: finer, matches, idOf: () => D, removeLost: false });
    expect(planesOf(after)[2]?.transform.scaleX).toBeCloseTo(carrier.transform.scaleX / factor, 12);
    expect(second.mount).toEqual({ on: 'stage' });
    for (const frame of [1, 60, 120]) {
      for (const plane of [rider, on]) {
        const [before, now] = [
          standingsAt(ridden, frame).get(plane.id)!,
          standingsAt(after, frame).get(plane.id)!,
        ];
        expect(now.depthSpx).toBeCloseTo(before.depthSpx, 8);
        for (const part of ['a', 'b', 'c', 'd', 'e', 'f'] as const)
          expect(now.artToStage[part]).toBeCloseTo(before.artToStage[part], 8);
      }
    }
  });

  it('puts an added layer where its neighbour in the painting stands, and deletes lost ones only when told', () => {
    const next = [
      layers[0]!,
      paintedLayer({ name: 'Bush', art: testArt(30, 50, 40), xPx: 500, yPx: 60, ...file }),
      layers[1]!,
    ];
    const matches = matchLayers(planes, next, { layerLikenesses: [null, null, null], planeLikenesses });
    const kept = applyNewVersion(staged, { layers: next, matches, idOf: () => D, removeLost: false });
    expect(order(planesOf(kept))).toBe('adbc');
    const [bush, hill] = [planesOf(kept)[1] as Plane, planesOf(kept)[2] as Plane];
    expect(bush.depthSpx).toBe(900);
    const [p, q] = [onStage(bush, 520, 70), onStage(hill, 520, 70)];
    expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-9);
    const removed = applyNewVersion(staged, { layers: next, matches, idOf: () => D, removeLost: true });
    expect(order(planesOf(removed))).toBe('adb');
  });
});

describe('a cut', () => {
  const recipe = cutRecipeSchema.parse({ steps: [], featherPx: 0, fill: true, copies: [] });
  const result = {
    cutId: 'cut',
    before: [],
    from: testArt(1),
    recipe,
    taken: testArt(5, 80, 60),
    takenAt: [30, 40] as const,
    left: testArt(6),
  };

  it('leaves both pieces exactly where the painting was, and can be changed', () => {
    const turned = setPlaneTransform(four, B, { rotationDeg: 17, scaleX: -1.5, xSpx: 200 });
    const cut = cutPlane(turned, B, testPlaneId('e'), 'Rock', result);
    const place = (scene: typeof cut, name: string, x: number, y: number) => {
      const plane = planesOf(scene).find((p) => p.name === name) as Plane;
      return applyAffine(artToCarrier(plane.transform), { x, y });
    };
    const near = (u: { x: number; y: number }, v: { x: number; y: number }) =>
      Math.hypot(u.x - v.x, u.y - v.y);
    expect(near(place(cut, 'Rock', 0, 0), place(turned, 'b', 30, 40))).toBeLessThan(1e-9);
    expect(planesOf(cut).map(({ name }) => name)).toEqual(['a', 'Rock', 'b', 'c', 'd']);
    const changed = changeCut(cut, { ...result, taken: testArt(7, 90, 70), takenAt: [20, 35] });
    expect(near(place(changed, 'Rock', 10, 5), place(turned, 'b', 30, 40))).toBeLessThan(1e-9);
    expect(planesOf(changed)[2]?.content).toMatchObject({
      art: { id: testArt(6).id },
      made: { part: 'left' },
    });
  });
});

describe('the next version of a painting that was cut', () => {
  const recipe = cutRecipeSchema.parse({ steps: [], featherPx: 0, fill: true, copies: [] });
  const cutResult = (
    cutId: string,
    n: number,
    before: CutResult['before'],
    from: CutResult['from'],
  ): CutResult => ({
    cutId,
    before,
    from,
    recipe,
    taken: testArt(n, 80, 60),
    takenAt: [30, 40],
    left: testArt(n + 1),
  });
  /** A painting of 400 × 300 that was cut, whose rest was cut again, and whose first piece was cut too. */
  const [E, F, G] = ['e', 'f', 'g'].map(testPlaneId) as [Plane['id'], Plane['id'], Plane['id']];
  const layer = paintedLayer({ name: 'a', art: testArt(1), file: 'quay.png' });
  const landed = withPlaneList(testScene(), [planeFromLayer(A, layer)]);
  const one = cutResult('one', 10, [], testArt(1));
  const two = cutResult('two', 20, stepsOfPiece(one, 'left'), testArt(11));
  const three = cutResult('three', 30, stepsOfPiece(one, 'taken'), testArt(10, 80, 60));
  const third = cutPlane(
    cutPlane(cutPlane(landed, A, E, 'Post', one), A, F, 'Rope', two),
    E,
    G,
    'Knot',
    three,
  );
  /** Painted twice as fine, with 50 px more to the west. */
  const next = paintedLayer({
    ...layer,
    art: testArt(2, 900, 600),
    paintingWidthPx: 800,
    paintingHeightPx: 600,
    xPx: -50,
  });
  const matches = matchLayers([planeOf(third, A)!], [next], {
    layerLikenesses: [null],
    planeLikenesses: new Map(),
  });

  it('asks for every cut again, in the order in which they were made, with the way from px to px', () => {
    const cuts = cutsToMake(third, [next], matches);
    expect(cuts.map(({ cut }) => [cut.cutId, cut.of, cut.takenAtPx])).toEqual([
      ['one', null, [30, 40]],
      ['three', { cutId: 'one', part: 'taken' }, [30, 40]],
      ['two', { cutId: 'one', part: 'left' }, [30, 40]],
    ]);
    for (const { map } of cuts) expect(map).toEqual({ scale: 2, dxPx: 50, dyPx: 0 });
  });

  it('puts the new pieces where the old ones were, and never the whole painting beside them', () => {
    const [map] = cutsToMake(third, [next], matches).map((cut) => cut.map);
    const fine = (
      cutId: string,
      n: number,
      before: CutResult['before'],
      from: CutResult['from'],
    ): CutResult => ({
      ...cutResult(cutId, n, before, from),
      taken: testArt(n, 160, 120),
      takenAt: [110, 80],
    });
    const inPiece = { scale: 2, dxPx: 30 * 2 + 50 - 110, dyPx: 40 * 2 - 80 };
    const again = fine('one', 40, [], testArt(2, 900, 600));
    const after = applyNewVersion(third, {
      layers: [next],
      matches,
      idOf: () => D,
      removeLost: false,
      cuts: [
        { result: again, map: map! },
        { result: fine('two', 50, stepsOfPiece(again, 'left'), testArt(41)), map: map! },
        { result: fine('three', 60, stepsOfPiece(again, 'taken'), testArt(40)), map: inPiece },
      ],
    });
    const artOf = (id: Plane['id']) => {
      const { content } = planeOf(after, id)!;
      return content.kind === 'still' ? content.art.id : null;
    };
    expect([artOf(A), artOf(E), artOf(F), artOf(G)]).toEqual([51, 61, 50, 60].map((n) => testArt(n).id));
    const at = (scene: typeof after, id: Plane['id'], x: number, y: number) =>
      applyAffine(artToCarrier(planeOf(scene, id)!.transform), { x, y });
    const same = (id: Plane['id'], before: [number, number], now: [number, number]) => {
      const [p, q] = [at(third, id, ...before), at(after, id, ...now)];
      expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-9);
    };
    // Px (70, 80) of the painting before is px (190, 160) of it now.
    same(A, [70, 80], [190, 160]);
    same(F, [70 - 30, 80 - 40], [190 - 110, 160 - 80]);
    same(E, [70 - 30, 80 - 40], [190 - 110, 160 - 80]);
    expect(cutsToMake(after, [next], matches).map(({ cut }) => cut.cutId)).toEqual(['one', 'three', 'two']);
    expect(cutStepsOf(planeOf(after, G)!).map(({ from }) => from.id)).toEqual(
      [2, 40].map((n) => testArt(n).id),
    );
  });
});

describe('scenes of version 2', () => {
  const oldPlane = () => {
    const { repeat: _r, run: _u, transform, ...rest } = testPlane({ id: A });
    const { skew: _s, ...upright } = transform;
    return { ...rest, transform: upright, mount: 'camera' };
  };

  it('open as they were', () => {
    const read = readScene({ ...asVersion5(testScene()), planes: [oldPlane()], version: 2 });
    expect(read.ok && planesOf(read.value)[0]).toEqual(testPlane({ id: A, mount: { on: 'camera' } }));
  });
});

describe('scenes of version 1', () => {
  const old = () => {
    const {
      group: _g,
      content: _c,
      origin: _o,
      locked: _l,
      repeat: _r,
      run: _u,
      ...rest
    } = testPlane({ id: A });
    return { ...asVersion5(testScene()), planes: [{ ...rest, mount: 'stage', art: testArt(1) }], version: 1 };
  };

  it('open as they were', () => {
    const read = readScene(old());
    expect(read.ok && planesOf(read.value)[0]).toEqual(testPlane({ id: A }));
    expect(read.ok && framePlan(read.value, 1).planes[0]?.shown).toEqual({ kind: 'image', art: testArt(1) });
  });
});
