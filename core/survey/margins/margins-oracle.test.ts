import { PerspectiveCamera, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { setCamera } from '../../edits/keys/index.ts';
import { applyAffine, invertAffine, type Point } from '../../geometry/index.ts';
import { SIDES, type Side } from '../../image/index.ts';
import type { Plane, Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { cameraPoseAt } from '../../staging/index.ts';
import { testArt, testArtId, testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { seededRandom } from '../../units/index.ts';
import { type AlphaMap, alphaMapOf } from '../alpha/alpha-map.ts';
import { surveyRows } from '../survey-run.ts';

const FRAME = { widthPx: 158, heightPx: 97 };
const HOME = 160;
const SCENES = 60;
const FRAMES = 3;

/** Two painted planes, cut off at all sides, turned, flipped and squashed, under a camera that pans, trucks, zooms and rolls. */
function randomScene(seed: number): { scene: Scene; maps: Map<string, AlphaMap> } {
  const random = seededRandom(seed);
  const between = (low: number, high: number) => low + random() * (high - low);
  const maps = new Map<string, AlphaMap>();
  const planes = [0, 1].map((i): Plane => {
    const [widthPx, heightPx] = [60 + Math.floor(random() * 200), 50 + Math.floor(random() * 120)];
    const data = new Uint8Array(widthPx * heightPx).fill(255);
    const id = testArtId(seed * 10 + i);
    maps.set(id, alphaMapOf(widthPx, heightPx, { columns: widthPx, rows: heightPx, data }));
    const cutEdges = { left: true, right: true, top: true, bottom: true };
    const art = { ...testArt(1, widthPx, heightPx), id, cutEdges };
    const plain = testPlane(
      { id: testPlaneId(`p${i}`), content: { kind: 'still', art, made: null } },
      widthPx,
      heightPx,
    );
    const flip = () => (random() < 0.3 ? -1 : 1);
    return {
      ...plain,
      depthSpx: i === 0 ? between(-60, 0) : between(0, 200),
      transform: {
        ...plain.transform,
        xSpx: between(-60, 60),
        ySpx: between(-30, 30),
        scaleX: between(0.5, 1.6) * flip(),
        scaleY: between(0.5, 1.6) * flip(),
        rotationDeg: random() < 0.4 ? 0 : between(-180, 180),
      },
    };
  });
  const still = testScene(planes, { frame: FRAME, homeDistanceSpx: HOME, lengthFrames: FRAMES });
  const rest = setCamera(still, { panX: 0, truck: 0 }, { frame: 1, keying: true });
  const move = {
    panX: between(-50, 50),
    panY: between(-20, 20),
    truck: between(-30, 30),
    roll: between(-20, 20),
  };
  return {
    scene: setCamera(rest, { ...move, zoom: between(0.8, 1.4) }, { frame: FRAMES, keying: true }),
    maps,
  };
}

/** Where a spot of a plane's art lands, by three's own camera and matrices (three 0.187; Y points up, it looks down −Z). */
function threeLandsAt(scene: Scene, plane: Plane, frame: number, { x, y }: Point): Point {
  const pose = cameraPoseAt(scene, frame);
  const vertical = (2 * Math.atan(FRAME.heightPx / (2 * HOME * pose.zoom)) * 180) / Math.PI;
  const camera = new PerspectiveCamera(vertical, FRAME.widthPx / FRAME.heightPx, 0.01, 1e6);
  camera.position.set(pose.xSpx, -pose.ySpx, -pose.zSpx);
  camera.rotation.z = (-pose.rollDeg * Math.PI) / 180;
  camera.updateMatrixWorld();
  camera.updateProjectionMatrix();
  const { transform: t } = plane;
  const spot = new Vector3((x - t.anchorXArtPx) * t.scaleX, (y - t.anchorYArtPx) * t.scaleY, 0);
  spot.applyAxisAngle(new Vector3(0, 0, 1), (t.rotationDeg * Math.PI) / 180);
  const at = new Vector3(spot.x + t.xSpx, -(spot.y + t.ySpx), -plane.depthSpx).project(camera);
  return { x: ((at.x + 1) / 2) * FRAME.widthPx, y: ((1 - at.y) / 2) * FRAME.heightPx };
}

/** Ends of each side of an art, and the corner across from its first end. */
const ENDS: Readonly<Record<Side, readonly [number, number, number, number, number, number]>> = {
  left: [0, 0, 0, 1, 1, 0],
  right: [1, 0, 1, 1, 0, 0],
  top: [0, 0, 1, 0, 0, 1],
  bottom: [0, 1, 1, 1, 0, 0],
};
const STEP_PX = 0.004;

/** How far a side stands within the frame: the farthest of all spots of the frame's border beyond it, alongside it. By trying. */
function insideByTrying(scene: Scene, plane: Plane, frame: number, side: Side): number | null {
  const { content } = plane;
  if (content.kind !== 'still') return null;
  const { widthPx, heightPx } = content.art;
  const [ax, ay, bx, by, cx, cy] = ENDS[side];
  const land = (x: number, y: number) =>
    threeLandsAt(scene, plane, frame, { x: x * widthPx, y: y * heightPx });
  const [a, b, c] = [land(ax, ay), land(bx, by), land(cx, cy)];
  const along = { x: b.x - a.x, y: b.y - a.y };
  const length = Math.hypot(along.x, along.y);
  const inward = { x: c.x - a.x, y: c.y - a.y };
  // Outward normal of the side on screen, px.
  const cross = along.x * inward.y - along.y * inward.x;
  const normal = { x: (along.y / length) * Math.sign(cross), y: (-along.x / length) * Math.sign(cross) };
  let most: number | null = null;
  const look = (x: number, y: number) => {
    const [dx, dy] = [x - a.x, y - a.y];
    // Along the side, in the art's own axes: between 0 and 1 is alongside it.
    const share = (dx * inward.y - dy * inward.x) / (along.x * inward.y - along.y * inward.x);
    if (share < 0 || share > 1) return;
    const depth = dx * normal.x + dy * normal.y;
    if (most === null || depth > most) most = depth;
  };
  for (let x = 0; x <= FRAME.widthPx; x += STEP_PX) {
    look(x, 0);
    look(x, FRAME.heightPx);
  }
  for (let y = 0; y <= FRAME.heightPx; y += STEP_PX) {
    look(0, y);
    look(FRAME.widthPx, y);
  }
  return most;
}

describe('margins', () => {
  it(`are to 0.01 px what three's camera and trying give, in ${SCENES} scenes`, () => {
    let compared = 0;
    for (let seed = 1; seed <= SCENES; seed++) {
      const { scene, maps } = randomScene(seed);
      const rows = surveyRows(scene, (id) => maps.get(id) ?? null);
      const frame = 1 + (seed % FRAMES);
      for (const plane of planesOf(scene))
        for (const side of SIDES) {
          const tried = insideByTrying(scene, plane, frame, side);
          if (tried === null) continue;
          const ours = rows.planes.get(plane.id)!.inside[side][frame - 1]!;
          expect(Math.abs(ours - tried), `${side} of ${plane.id}, scene ${seed}`).toBeLessThan(0.01);
          compared += 1;
        }
    }
    expect(compared).toBeGreaterThan(SCENES * 4);
  });
});

describe('missing paint beyond a side', () => {
  it('is to a cell’s border what every px of the frame by itself says', () => {
    let [compared, some] = [0, 0];
    for (let seed = 1; seed <= SCENES; seed++) {
      const { scene, maps } = randomScene(seed);
      const rows = surveyRows(scene, (id) => maps.get(id) ?? null);
      for (let frame = 1; frame <= FRAMES; frame++)
        for (const [id, sides] of missingByTrying(scene, maps, frame))
          for (const side of SIDES) {
            // A border counts twice: where the strip is sampled, and where a cell of light is looked up.
            const { px, border } = sides[side];
            const own = rows.planes.get(testPlaneId(id))!;
            const ours = own.missing[side][frame - 1]!;
            // Strips of less than a px lie between the px that are tried.
            if (own.inside[side][frame - 1]! > 0 && own.inside[side][frame - 1]! < 1) continue;
            expect(Math.abs(ours - px), `${side} of ${id}, scene ${seed}`).toBeLessThanOrEqual(
              3 * border + 16,
            );
            // Nothing is found where there is nothing.
            if (px === 0 && border === 0) expect(ours).toBeLessThan(4);
            compared += 1;
            if (px > 100) some += 1;
          }
    }
    expect([compared > SCENES * 8, some > SCENES]).toEqual([true, true]);
  });
});

type Found = Record<Side, { px: number; border: number }>;

/** Which side of an art a spot lies beyond, alongside it. */
function sideBeyond({ x, y }: Point, { widthPx, heightPx }: AlphaMap): Side | null {
  const [alongX, alongY] = [x >= 0 && x < widthPx, y >= 0 && y < heightPx];
  if (x < 0 && alongY) return 'left';
  if (x >= widthPx && alongY) return 'right';
  if (y < 0 && alongX) return 'top';
  return y >= heightPx && alongX ? 'bottom' : null;
}

/** Every px of the frame: planes are opaque, so what is beyond a side shows where no nearer plane is. */
function missingByTrying(
  scene: Scene,
  maps: ReadonlyMap<string, AlphaMap>,
  frame: number,
): Map<string, Found> {
  const none = () => ({ px: 0, border: 0 });
  const found = new Map<string, Found>();
  const before = new Map<string, Side | null>();
  const drawn = framePlan(scene, frame).planes.toReversed();
  for (const { planeId } of drawn)
    found.set(planeId, { left: none(), right: none(), top: none(), bottom: none() });
  const rowAbove: Map<string, Side | null>[] = [];
  for (let y = 0; y < FRAME.heightPx; y++)
    for (let x = 0; x < FRAME.widthPx; x++) {
      let open = true;
      const here = new Map<string, Side | null>();
      for (const plan of drawn) {
        if (plan.state !== 'drawn' || plan.shown.kind !== 'image') continue;
        const map = maps.get(plan.shown.art.id)!;
        const at = applyAffine(invertAffine(plan.artToFrame)!, { x: x + 0.5, y: y + 0.5 });
        const side = open ? sideBeyond(at, map) : null;
        here.set(plan.planeId, side);
        if (side) found.get(plan.planeId)![side].px += 1;
        const inArt = at.x >= 0 && at.y >= 0 && at.x < map.widthPx && at.y < map.heightPx;
        if (inArt) open = false;
      }
      for (const [id, side] of here)
        for (const other of [
          x > 0 ? before.get(id) : side,
          rowAbove[x]?.has(id) ? rowAbove[x]?.get(id) : side,
        ])
          if (other !== side) for (const one of [side, other]) if (one) found.get(id)![one].border += 1;
      for (const [id, side] of here) before.set(id, side);
      rowAbove[x] = here;
    }
  return found;
}
