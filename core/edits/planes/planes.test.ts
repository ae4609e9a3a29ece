// Over 400 lines: one generator of random stages, and one measure of "the same picture", serve all of these edits.
import fc from 'fast-check';
import { Group, Object3D, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { applyAffine, mapBox } from '../../geometry/index.ts';
import type { Plane, Scene } from '../../scene/index.ts';
import { planeOf, planesOf, withPlaneList } from '../../scene/records/index.ts';
import { depthAtSpeed, depthForSlide, speedAtDepth } from '../../stage/index.ts';
import { readScene } from '../../staging/check/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { cameraPoseAt, stageFrameOf, standingsAt } from '../../staging/index.ts';
import { mountedOn, testPlane, testPlaneId, testScene, thereAndBack } from '../../testing/index.ts';
import { flattenDepths, reverseDepths, scaleDepths, setPlanesDepth, spreadPlanes } from '../depth/index.ts';
import { setCamera } from '../keys/index.ts';
import { ALIGNMENTS, alignPlanes, distributePlanes } from './arrange.ts';
import { addCarrier, setPlaneMount } from './mounts.ts';
import {
  fillFrame,
  flipPlanes,
  movePlanesOnFrame,
  paintOnFrame,
  setPlaneAnchor,
  withoutRiders,
} from './place.ts';
import { deletePlanes } from './planes.ts';
import { sizePlanesOnFrame, turnPlanesOnFrame } from './together.ts';

const ids = ['a', 'b', 'c', 'd', 'e'].map(testPlaneId);
const [A, B, C] = ids as [Plane['id'], Plane['id'], Plane['id']];
const range = (min: number, max: number) => fc.double({ min, max, noNaN: true });
const HELD = { atFrame: 1, holdPicture: true };

const transforms = fc.record({
  xSpx: range(-900, 900),
  ySpx: range(-900, 900),
  scaleX: range(0.3, 3),
  scaleY: range(-3, -0.3),
  rotationDeg: range(-180, 180),
  skew: fc.constantFrom(0, 0.3),
  anchorXArtPx: range(0, 400),
  anchorYArtPx: range(0, 300),
});
/** Five planes, each riding on the stage, the camera or one before it. */
const scenes: fc.Arbitrary<Scene> = fc
  .tuple(
    fc.array(fc.tuple(transforms, range(-40, 900), fc.integer({ min: -2, max: 3 })), {
      minLength: 5,
      maxLength: 5,
    }),
    fc.tuple(range(-300, 300), range(-300, 300), range(-300, 300), range(0.5, 2), range(-90, 90)),
  )
  .map(([planes, [panX, panY, truck, zoom, roll]]) => {
    const made = planes.map(([transform, depthSpx, on], i): Plane => {
      const under = ids[on];
      const mount =
        on >= 0 && on < i && under
          ? ({ on: 'plane', plane: under } as const)
          : ({ on: on === -2 ? 'camera' : 'stage' } as const);
      return testPlane({ id: ids[i]!, transform, depthSpx, mount });
    });
    return setCamera(testScene(made), { panX, panY, truck, zoom, roll }, { frame: 1, keying: false });
  });

/** Where three points of every plane land on the frame. */
const landings = (scene: Scene, frame = 1) =>
  new Map(
    framePlan(scene, frame).planes.map((plane) => [
      plane.planeId,
      plane.artToFrame &&
        [
          { x: 0, y: 0 },
          { x: 400, y: 0 },
          { x: 0, y: 300 },
        ].map((point) => applyAffine(plane.artToFrame!, point)),
    ]),
  );

function expectSamePicture(before: Scene, after: Scene): void {
  const [was, is] = [landings(before), landings(after)];
  for (const [id, points] of was) {
    if (!points) continue;
    points.forEach((point, i) => {
      const now = is.get(id)?.[i];
      const size = 1 + Math.hypot(point.x, point.y);
      expect(now && Math.hypot(now.x - point.x, now.y - point.y) / size).toBeLessThan(1e-8);
    });
  }
}

/** As JSON keeps it, which knows no −0. */
const asStored = (scene: Scene): unknown => JSON.parse(JSON.stringify(scene));

describe('planes that ride on planes', () => {
  it('stand where a scene graph puts them (three 0.187 Object3D, depth scaled by √|sx·sy|)', () => {
    fc.assert(
      fc.property(scenes, (scene) => {
        const nodes = new Map<string, Object3D>();
        for (const plane of planesOf(scene)) {
          const { transform: t, mount } = plane;
          const node = new Group();
          node.position.set(t.xSpx, t.ySpx, plane.depthSpx);
          node.rotation.z = (t.rotationDeg * Math.PI) / 180;
          node.scale.set(t.scaleX, t.scaleY, Math.sqrt(Math.abs(t.scaleX * t.scaleY)));
          nodes.set(plane.id, node);
          (mount.on === 'plane' ? nodes.get(mount.plane)! : new Object3D()).add(node);
        }
        const standings = standingsAt(scene, 1);
        for (const plane of planesOf(scene)) {
          const chain = (p: Plane): Plane[] => {
            const { mount } = p;
            return mount.on === 'plane' ? [p, ...chain(planeOf(scene, mount.plane)!)] : [p];
          };
          // A scene graph has no skew; those chains are checked by the pictures below.
          if (chain(plane).some((p) => p.transform.skew !== 0)) continue;
          const { anchorXArtPx, anchorYArtPx } = plane.transform;
          const at = nodes.get(plane.id)!.localToWorld(new Vector3(70 - anchorXArtPx, 50 - anchorYArtPx, 0));
          const { artToStage, depthSpx } = standings.get(plane.id)!;
          const ours = applyAffine(artToStage, { x: 70, y: 50 });
          const size = 1 + at.length();
          expect(Math.hypot(ours.x - at.x, ours.y - at.y, depthSpx - at.z) / size).toBeLessThan(1e-9);
        }
      }),
      { seed: 5, numRuns: 200 },
    );
  });

  it('keep the picture when they are remounted, whatever they and their carriers look like', () => {
    fc.assert(
      fc.property(scenes, fc.nat(4), fc.nat(4), (scene, which, onto) => {
        const mount = { on: 'plane', plane: ids[onto]! } as const;
        const mounted = setPlaneMount(scene, ids[which]!, mount, 1);
        if (mounted.ok) expectSamePicture(scene, mounted.value);
        else expect(mounted.error).toContain('rides on itself');
      }),
      { seed: 6, numRuns: 200 },
    );
  });

  it('keep their picture when what they ride on changes depth with the picture held, and undo restores it', () => {
    fc.assert(
      fc.property(scenes, fc.nat(4), range(-700, 9000), (scene, which, depthSpx) => {
        const moved = setPlanesDepth(scene, new Map([[ids[which]!, depthSpx]]), HELD);
        expectSamePicture(scene, moved);
        expect(asStored(thereAndBack(scene, moved).back)).toEqual(asStored(scene));
      }),
      { seed: 8, numRuns: 300 },
    );
  });

  it('refuse to ride round in a ring, with a sentence', () => {
    const scene = mountedOn(testScene([testPlane({ id: A, name: 'rock' }), testPlane({ id: B })]), B, {
      on: 'plane',
      plane: A,
    });
    expect(setPlaneMount(scene, A, { on: 'plane', plane: B }, 1)).toEqual({
      ok: false,
      error: 'rock rides on itself, by way of b.',
    });
    expect(setPlaneMount(scene, A, { on: 'plane', plane: A }, 1).ok).toBe(false);
  });

  it('stay where they are when what they ride on is deleted', () => {
    fc.assert(
      fc.property(scenes, fc.subarray(ids, { minLength: 1, maxLength: 3 }), (scene, going) => {
        const left = deletePlanes(scene, new Set(going));
        expect(planesOf(left).length).toBe(5 - going.length);
        expect(readScene(left).ok).toBe(true);
        expectSamePicture(left, scene);
      }),
      { seed: 9, numRuns: 150 },
    );
  });

  it('move as one on an empty carrier', () => {
    const planes = [testPlane({ id: A, depthSpx: 50 }), testPlane({ id: B, depthSpx: 400 })];
    const before = testScene(planes);
    const carried = addCarrier(before, new Set([A, B]), { id: C, name: 'carrier' }, 1);
    expectSamePicture(before, carried);
    const moved = movePlanesOnFrame(carried, new Set([C]), { x: 30, y: -8 }, 1);
    const [was, is] = [landings(carried), landings(moved)];
    const slid = (id: Plane['id']) => is.get(id)![0]!.x - was.get(id)![0]!.x;
    expect(slid(C)).toBeCloseTo(30, 9);
    // What stands behind its carrier slides by its own distance: 1970/2320 of it.
    expect(slid(A)).toBeCloseTo(30, 9);
    expect(slid(B)).toBeCloseTo((30 * 1970) / 2320, 9);
  });
});

describe('depths of many planes', () => {
  const flat = testScene(ids.map((id) => testPlane({ id })));
  const speedsOf = (scene: Scene) => planesOf(scene).map((p) => speedAtDepth(p.depthSpx, 1920));

  it.each([
    // 1.2 to 0.2 in four even steps of speed: worked by hand.
    ['speed', [1.2, 0.95, 0.7, 0.45, 0.2]],
    // Even steps of the distance 1600 … 9600.
    ['distance', [1920 / 1600, 1920 / 3600, 1920 / 5600, 1920 / 7600, 1920 / 9600]],
    ['ratio', [0, 1, 2, 3, 4].map((i) => 1.2 * (0.2 / 1.2) ** (i / 4))],
  ] as const)('spread by %s as worked by hand', (step, speeds) => {
    const spread = { nearestSpeed: 1.2, farthestSpeed: 0.2, step, strength: 1 };
    const done = spreadPlanes(flat, new Set(ids), spread, HELD);
    speedsOf(done).forEach((speed, i) => {
      expect(speed).toBeCloseTo(speeds[i]!, 9);
    });
    expectSamePicture(flat, done);
  });

  it('spread with their shadows and lights: what is laid over in a group goes with what it falls on', () => {
    const [grass, shadow, tower, lone, sky] = ids.map((id) => testPlane({ id }));
    const lit = testScene([
      grass!,
      { ...shadow!, mode: 'multiply', group: 'Tower' },
      { ...tower!, group: 'Tower' },
      // Of another group than what is behind it: a plane like any other.
      { ...lone!, mode: 'screen', group: 'Lamps' },
      sky!,
    ]);
    const spread = { nearestSpeed: 1.2, farthestSpeed: 0.3, step: 'speed', strength: 1 } as const;
    const done = spreadPlanes(lit, new Set(ids), spread, HELD);
    // 1.2 to 0.3 in three even steps of speed, by hand.
    speedsOf(done).forEach((speed, i) => {
      expect(speed).toBeCloseTo([1.2, 0.9, 0.9, 0.6, 0.3][i]!, 9);
    });
    expectSamePicture(lit, done);
  });

  it('spread with any strength in the order that there was, keeping the picture and what is locked', () => {
    const steps = fc.constantFrom('speed' as const, 'distance' as const, 'ratio' as const);
    fc.assert(
      fc.property(
        scenes,
        steps,
        range(0, 1.5),
        range(0.9, 1.8),
        fc.nat(4),
        (scene, step, strength, near, k) => {
          const planes = planesOf(scene).map((plane, i) => ({
            ...plane,
            mount: { on: 'stage' as const },
            locked: i === k,
          }));
          const start = withPlaneList(scene, planes);
          const order = (s: Scene) =>
            planesOf(s)
              .filter((plane) => !plane.locked)
              .sort((p, q) => p.depthSpx - q.depthSpx)
              .map(({ id }) => id);
          const spread = { nearestSpeed: near, farthestSpeed: 0.15, step, strength };
          const done = spreadPlanes(start, new Set(ids), spread, HELD);
          if (strength > 0.01) expect(order(done)).toEqual(order(start));
          expect(planesOf(done)[k]).toEqual(planesOf(start)[k]);
          expectSamePicture(start, done);
        },
      ),
      { seed: 12, numRuns: 150 },
    );
  });

  it('scale about the datum, flatten and reverse', () => {
    const depths = [-480, 0, 960, 1920, 5760];
    const scene = testScene(ids.map((id, i) => testPlane({ id, depthSpx: depths[i]! })));
    const all = new Set(ids);
    // Half the strength is the square root of the ratio of distances: 1440/1920 → √0.75 of 1920.
    const halved = planesOf(scaleDepths(scene, all, 0.5, HELD)).map((p) => p.depthSpx);
    expect(halved[0]).toBeCloseTo(1920 * Math.sqrt(0.75) - 1920, 9);
    expect(halved[1]).toBeCloseTo(0, 9);
    expect(halved[4]).toBeCloseTo(1920, 9);
    expect(planesOf(flattenDepths(scene, all, HELD)).map((p) => p.depthSpx)).toEqual(Array(5).fill(-480));
    const reversed = planesOf(reverseDepths(scene, all, HELD)).map((p) => p.depthSpx);
    expect(reversed).toEqual([...depths].reverse());
    expectSamePicture(scene, reverseDepths(scene, all, HELD));
  });
});

describe('speeds by measurement', () => {
  it('find the depth of a plane from one spot in two frames', () => {
    fc.assert(
      fc.property(
        scenes,
        range(-600, 6000),
        range(40, 900),
        range(-200, 200),
        (scene, depthSpx, pan, truck) => {
          const plane = testPlane({ id: A, depthSpx });
          const staged = withPlaneList(scene, [plane]);
          const moved = setCamera(
            staged,
            { panX: cameraPoseAt(staged, 1).xSpx + pan, truck: cameraPoseAt(staged, 1).zSpx + 1920 + truck },
            { frame: 1, keying: false },
          );
          const [first, second] = [staged, moved].map((s) => ({
            pose: cameraPoseAt(s, 1),
            at: landings(s).get(A)?.[1],
          }));
          if (!first?.at || !second?.at) return;
          const found = depthForSlide(
            stageFrameOf(scene),
            { pose: first.pose, at: first.at },
            { pose: second.pose, at: second.at },
          );
          expect(found).not.toBeNull();
          expect(Math.abs((found as number) - depthSpx) / (2000 + depthSpx)).toBeLessThan(1e-6);
        },
      ),
      { seed: 14, numRuns: 150 },
    );
  });

  it('is worked by hand for a pan: half the slide of the datum is twice its distance', () => {
    const frame = { widthPx: 1920, heightPx: 1080, homeDistanceSpx: 1920 };
    const pose = { xSpx: 0, ySpx: 0, zSpx: -1920, zoom: 1, rollDeg: 0 };
    const first = { pose, at: { x: 960, y: 540 } };
    const second = { pose: { ...pose, xSpx: 100 }, at: { x: 910, y: 540 } };
    expect(depthForSlide(frame, first, second)).toBeCloseTo(depthAtSpeed(0.5, 1920), 9);
    expect(depthForSlide(frame, first, first)).toBeNull();
  });
});

describe('placing', () => {
  it('flips where the paint stands: the bounds stay, and twice is none', () => {
    fc.assert(
      fc.property(scenes, fc.nat(4), fc.constantFrom('across' as const, 'down' as const), (scene, i, way) => {
        // Turned planes keep the middle of their paint only.
        const upright = withPlaneList(
          scene,
          planesOf(scene).map((p) => ({
            ...p,
            transform: { ...p.transform, rotationDeg: 0, skew: 0 },
            mount: { on: 'stage' as const },
          })),
        );
        const level = setCamera(upright, { roll: 0 }, { frame: 1, keying: false });
        const plane = planesOf(level)[i]!;
        const flipped = flipPlanes(level, new Set([plane.id]), way);
        const [was, is] = [level, flipped].map((s) => paintOnFrame(s, planesOf(s)[i]!, 1));
        if (!was || !is) return;
        for (const side of ['x0', 'y0', 'x1', 'y1'] as const) expect(is[side]).toBeCloseTo(was[side], 6);
        expectSamePicture(level, flipPlanes(flipped, new Set([plane.id]), way));
      }),
      { seed: 16, numRuns: 100 },
    );
  });

  it('moves planes by what the pointer moved, on any carrier and through any camera', () => {
    fc.assert(
      fc.property(scenes, fc.nat(4), range(-200, 200), range(-200, 200), (scene, i, x, y) => {
        const moved = movePlanesOnFrame(scene, new Set([ids[i]!]), { x, y }, 1);
        const [was, is] = [landings(scene).get(ids[i]!), landings(moved).get(ids[i]!)];
        if (!was || !is) return;
        expect(is[0]!.x - was[0]!.x).toBeCloseTo(x, 6);
        expect(is[0]!.y - was[0]!.y).toBeCloseTo(y, 6);
      }),
      { seed: 17, numRuns: 100 },
    );
  });

  it('sizes and turns planes together about a point of the picture, on any carrier and through any camera', () => {
    const chosen = fc.subarray(ids, { minLength: 2 });
    const pivots = fc.record({ x: range(0, 1920), y: range(0, 1080) });
    fc.assert(
      fc.property(
        scenes,
        chosen,
        pivots,
        range(0.2, 4),
        range(-170, 170),
        (scene, some, pivot, ratio, deg) => {
          const free = withoutRiders(scene, new Set(some));
          const was = landings(scene);
          const sized = landings(sizePlanesOnFrame(scene, new Set(some), pivot, ratio, 1));
          const turned = landings(turnPlanesOnFrame(scene, new Set(some), pivot, deg, 1));
          const [cos, sin] = [Math.cos((deg * Math.PI) / 180), Math.sin((deg * Math.PI) / 180)];
          for (const id of free) {
            was.get(id)?.forEach((point, i) => {
              const [dx, dy] = [point.x - pivot.x, point.y - pivot.y];
              const reach = 1 + Math.hypot(point.x, point.y) * Math.max(1, ratio);
              const [large, round] = [sized.get(id)![i]!, turned.get(id)![i]!];
              expect((large.x - pivot.x - dx * ratio) / reach).toBeCloseTo(0, 8);
              expect((large.y - pivot.y - dy * ratio) / reach).toBeCloseTo(0, 8);
              expect((round.x - pivot.x - (cos * dx - sin * dy)) / reach).toBeCloseTo(0, 8);
              expect((round.y - pivot.y - (sin * dx + cos * dy)) / reach).toBeCloseTo(0, 8);
            });
          }
        },
      ),
      { seed: 171, numRuns: 100 },
    );
  });

  it('leaves a locked plane where it is when others are sized and turned', () => {
    const scene = testScene([testPlane({ id: A }), testPlane({ id: B, locked: true })]);
    const sized = sizePlanesOnFrame(scene, new Set([A, B]), { x: 0, y: 0 }, 2, 1);
    expect(planeOf(sized, B)).toEqual(planeOf(scene, B));
    expect(planeOf(sized, A)?.transform.scaleX).toBeCloseTo(2, 12);
  });

  it('moves the anchor without the picture', () => {
    fc.assert(
      fc.property(scenes, fc.nat(4), range(-500, 500), range(-500, 500), (scene, i, x, y) => {
        expectSamePicture(scene, setPlaneAnchor(scene, ids[i]!, { x, y }, 1));
      }),
      { seed: 18, numRuns: 100 },
    );
  });

  it.each(ALIGNMENTS)('aligns %s to the frame', (alignment) => {
    const scene = testScene([
      testPlane({ id: A, depthSpx: 900 }),
      testPlane({ id: B, depthSpx: -300, transform: { ...testPlane({ id: B }).transform, xSpx: 200 } }),
    ]);
    const done = alignPlanes(scene, new Set([A, B]), alignment, 'frame', 1);
    const goal = { left: 0, right: 1920, centre: 960, top: 0, bottom: 1080, middle: 540 }[alignment];
    for (const plane of planesOf(done)) {
      const { x0, y0, x1, y1 } = paintOnFrame(done, plane, 1)!;
      const line = {
        left: x0,
        right: x1,
        centre: (x0 + x1) / 2,
        top: y0,
        bottom: y1,
        middle: (y0 + y1) / 2,
      }[alignment];
      expect(line).toBeCloseTo(goal, 9);
    }
  });

  it('distributes with even gaps between the outermost two, whatever their depths', () => {
    const at = (id: Plane['id'], xSpx: number, depthSpx: number) =>
      testPlane({ id, depthSpx, transform: { ...testPlane({ id }).transform, xSpx } });
    const scene = testScene([at(A, -700, 0), at(B, -500, 600), at(C, 720, -200)]);
    const done = distributePlanes(scene, new Set([A, B, C]), 'across', 'each-other', 1);
    const boxes = planesOf(done).map((plane) => paintOnFrame(done, plane, 1)!);
    expect(boxes[1]!.x0 - boxes[0]!.x1).toBeCloseTo(boxes[2]!.x0 - boxes[1]!.x1, 9);
    expect(boxes[0]).toEqual(paintOnFrame(scene, planesOf(scene)[0]!, 1));
  });

  it('covers the frame at its depth all through the move, and no more than it must', () => {
    const start = testScene([testPlane({ id: A, depthSpx: 1500 })], { lengthFrames: 20 });
    const panned = setCamera(
      setCamera(start, { panX: -200 }, { frame: 1, keying: true }),
      { panX: 500, truck: 300 },
      { frame: 20, keying: true },
    );
    const done = fillFrame(panned, A, 'cover');
    const inside = (scene: Scene, frame: number) => {
      const plan = framePlan(scene, frame).planes[0]!;
      return mapBox(plan.artToFrame!, { x0: 0, y0: 0, x1: 400, y1: 300 });
    };
    let spare = Number.POSITIVE_INFINITY;
    for (let frame = 1; frame <= 20; frame++) {
      const box = inside(done, frame);
      spare = Math.min(spare, -box.x0, box.x1 - 1920, -box.y0, box.y1 - 1080);
    }
    expect(spare).toBeGreaterThan(-1e-6);
    expect(spare).toBeLessThan(1);
  });
});
