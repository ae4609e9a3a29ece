import { PerspectiveCamera, Vector3 } from 'three';
import { describe, expect, it } from 'vitest';
import { setCamera } from '../../edits/keys/index.ts';
import { applyAffine, invertAffine, type Point } from '../../geometry/index.ts';
import type { Plane, Scene } from '../../scene/index.ts';
import { planeOf } from '../../scene/records/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { cameraPoseAt } from '../../staging/index.ts';
import { alphaOf, FRAME, painted, shot, sky } from '../../testing/painted-planes.ts';
import { seededRandom } from '../../units/index.ts';
import { alphaAt } from '../alpha/alpha-map.ts';
import { findingsOf } from '../findings.ts';
import { surveyRows } from '../survey-run.ts';

const SCENES = 40;
const FRAMES = 9;

/** A hill with a notch behind a tree, a post that stands on the ground; all of random sizes, under a random move. */
function randomScene(seed: number): Scene {
  const random = seededRandom(seed);
  const between = (low: number, high: number) => low + random() * (high - low);
  const crest = Math.round(between(60, 120));
  const [from, wide] = [Math.round(between(180, 260)), Math.round(between(20, 60))];
  const hill = painted('hill', [480, 220], (x, y) => y >= crest && !(x >= from && x < from + wide), {
    depthSpx: between(0, 60),
  });
  const trunk = wide + Math.round(between(4, 24));
  const left = from - Math.round((trunk - wide) / 2);
  const tree = painted('tree', [480, 220], (x) => x >= left && x < left + trunk, {
    depthSpx: between(-140, -60),
  });
  const post = painted('post', [480, 220], (x, y) => x >= 330 && x < 350 && y >= 80 && y < 160, {
    depthSpx: between(-40, -10),
  });
  const still = shot([tree, post, hill, sky()], { lengthFrames: FRAMES });
  const rest = setCamera(still, { panX: 0, truck: 0, roll: 0 }, { frame: 1, keying: true });
  const to = {
    panX: between(-160, 160),
    panY: between(-10, 10),
    truck: between(-20, 20),
    roll: between(-4, 4),
  };
  return setCamera(rest, to, { frame: FRAMES, keying: true });
}

/** Whether a spot of the frame lies in it and nothing nearer than a plane takes half of its light; by the art itself. */
function openAt(scene: Scene, frame: number, planeId: string): (spot: Point) => boolean {
  const { planes } = framePlan(scene, frame);
  const at = planes.findIndex((plan) => plan.planeId === planeId);
  const nearer = planes.slice(at + 1).flatMap((plan) => {
    if (plan.state !== 'drawn' || plan.shown.kind !== 'image') return [];
    const { opacity, artToFrame, shown } = plan;
    return [{ opacity, frameToArt: invertAffine(artToFrame)!, map: alphaOf(shown.art.id)! }];
  });
  return ({ x, y }) => {
    if (x < 0 || y < 0 || x >= FRAME.widthPx || y >= FRAME.heightPx) return false;
    let light = 1;
    for (const { opacity, frameToArt, map } of nearer) {
      const spot = applyAffine(frameToArt, { x, y });
      light *= 1 - (alphaAt(map, map.levels[0]!, spot.x, spot.y) / 255) * opacity;
    }
    return light >= 0.5;
  };
}

/** Px round a spot within which a cell of the frame may say otherwise than the spot itself. */
const NEAR_PX = 4;
const AROUND = Array.from({ length: 8 }, (_, i) => ({
  x: NEAR_PX * Math.cos((i * Math.PI) / 4),
  y: NEAR_PX * Math.sin((i * Math.PI) / 4),
}));

describe('what nearer planes uncover', () => {
  it(`is, but for cells at a border, what each bare spot by itself says, in ${SCENES} scenes`, () => {
    let [compared, shown] = [0, 0];
    for (let seed = 1; seed <= SCENES; seed++) {
      const scene = randomScene(seed);
      const rows = surveyRows(scene, alphaOf);
      for (const [planeId, reveal] of rows.reveals) {
        const { cells, columns, cellPx } = reveal.bare;
        for (let frame = 2; frame <= FRAMES; frame++) {
          const plan = framePlan(scene, frame).planes.find((one) => one.planeId === planeId);
          if (plan?.state !== 'drawn') continue;
          const isOpen = openAt(scene, frame, planeId);
          let [open, border] = [0, 0];
          for (const cell of cells) {
            const [c, r] = [cell % columns, Math.floor(cell / columns)];
            const at = applyAffine(plan.artToFrame, { x: (c + 0.5) * cellPx, y: (r + 0.5) * cellPx });
            const here = isOpen(at);
            if (here) open += 1;
            const differs = AROUND.some(({ x, y }) => isOpen({ x: at.x + x, y: at.y + y }) !== here);
            if (differs) border += 1;
          }
          expect(
            Math.abs(reveal.shown[frame - 1]! - open),
            `${planeId} at frame ${frame} of scene ${seed}`,
          ).toBeLessThanOrEqual(border);
          compared += 1;
          if (open > border) shown += 1;
        }
      }
    }
    expect([compared > SCENES * 4, shown > SCENES]).toEqual([true, true]);
  });
});

/** Where a spot of an unturned plane's art lands, by three's own camera (three 0.187). */
function threeLandsAt(scene: Scene, { transform: t, depthSpx }: Plane, frame: number, spot: Point): Point {
  const pose = cameraPoseAt(scene, frame);
  const vertical = (2 * Math.atan(FRAME.heightPx / (2 * scene.homeDistanceSpx * pose.zoom)) * 180) / Math.PI;
  const camera = new PerspectiveCamera(vertical, FRAME.widthPx / FRAME.heightPx, 0.01, 1e6);
  camera.position.set(pose.xSpx, -pose.ySpx, -pose.zSpx);
  camera.rotation.z = (-pose.rollDeg * Math.PI) / 180;
  camera.updateMatrixWorld();
  const at = new Vector3(
    (spot.x - t.anchorXArtPx) * t.scaleX + t.xSpx,
    -((spot.y - t.anchorYArtPx) * t.scaleY + t.ySpx),
    -depthSpx,
  ).project(camera);
  return { x: ((at.x + 1) / 2) * FRAME.widthPx, y: ((1 - at.y) / 2) * FRAME.heightPx };
}

describe('slips', () => {
  it('are by how much two spots that touch at first lie apart through three’s camera', () => {
    let compared = 0;
    for (let seed = 1; seed <= SCENES; seed++) {
      const random = seededRandom(seed);
      const ground = painted('ground', [900, 260], (_, y) => y >= 150, { depthSpx: 0 });
      const [from, wide] = [300 + Math.round(random() * 200), 30 + Math.round(random() * 30)];
      const thing = painted(
        'thing',
        [900, 260],
        (x, y) => x >= from && x < from + wide && y >= 90 && y < 170,
        {
          depthSpx: -20 - random() * 50,
        },
      );
      const still = shot([thing, ground, sky()], { lengthFrames: FRAMES });
      const rest = setCamera(still, { panX: 0 }, { frame: 1, keying: true });
      const scene = setCamera(rest, { panX: 60 + random() * 60 }, { frame: FRAMES, keying: true });
      const rows = surveyRows(scene, alphaOf);
      const slips = findingsOf(rows, { gapPx: 1, softness: 1, crossingSeconds: 0.1, slipPx: 0.5 });
      const slip = slips.find((one) => one.code === 'slip' && one.planeId === thing.id);
      const contact = rows.contacts.find(({ plane }) => rows.setUpOrder[plane] === thing.id);
      if (slip?.code !== 'slip' || !contact) continue;
      const planes = [planeOf(scene, thing.id)!, planeOf(scene, slip.onId)!] as const;
      const spots = planes.map((plane) => {
        const plan = framePlan(scene, 1).planes.find(({ planeId }) => planeId === plane.id)!;
        return applyAffine(invertAffine(plan.artToFrame!)!, contact);
      });
      const [foot, under] = planes.map((plane, i) =>
        threeLandsAt(scene, plane, slip.worstFrame, spots[i]!),
      ) as [Point, Point];
      expect(slip.measured, `scene ${seed}`).toBeCloseTo(Math.hypot(foot.x - under.x, foot.y - under.y), 2);
      compared += 1;
    }
    expect(compared).toBeGreaterThan(SCENES / 2);
  });
});
