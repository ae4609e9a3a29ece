import { describe, expect, it } from 'vitest';
import { applyAffine, invertAffine } from '../geometry/index.ts';
import type { Plane, Scene } from '../scene/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import { repeatsAcross, repeatsDown } from '../staging/index.ts';
import { testArt, testArtId, testPlane, testPlaneId, testScene } from '../testing/index.ts';
import { seededRandom } from '../units/index.ts';
import { type AlphaMap, alphaAt, alphaMapOf } from './alpha/alpha-map.ts';
import { surveyRows } from './survey-run.ts';

/** No whole number of cells either way. */
const FRAME = { widthPx: 158, heightPx: 97 };
const SCENES = 120;

/** A scene of one to four planes of blocks: turned, flipped, squashed, tiled, riding on the camera or on one another. */
function randomScene(seed: number): { scene: Scene; maps: Map<string, AlphaMap> } {
  const random = seededRandom(seed);
  const between = (low: number, high: number) => low + random() * (high - low);
  const pick = <T>(values: readonly T[]): T => values[Math.floor(random() * values.length)]!;
  const maps = new Map<string, AlphaMap>();
  const planes = Array.from({ length: 1 + Math.floor(random() * 4) }, (_, i): Plane => {
    const [widthPx, heightPx] = [40 + Math.floor(random() * 260), 40 + Math.floor(random() * 160)];
    const block = pick([16, 24, 40]);
    const solid = new Map<string, boolean>();
    const data = new Uint8Array(widthPx * heightPx);
    for (let y = 0; y < heightPx; y++)
      for (let x = 0; x < widthPx; x++) {
        const name = `${Math.floor(x / block)},${Math.floor(y / block)}`;
        if (!solid.has(name)) solid.set(name, random() < 0.7);
        if (solid.get(name)) data[y * widthPx + x] = 255;
      }
    const id = testArtId(seed * 10 + i);
    maps.set(id, alphaMapOf(widthPx, heightPx, { columns: widthPx, rows: heightPx, data }));
    const art = { ...testArt(1, widthPx, heightPx), id };
    const plain = testPlane(
      { id: testPlaneId(`p${i}`), content: { kind: 'still', art, made: null } },
      widthPx,
      heightPx,
    );
    const mirrored = () => pick([1, 1, -1]);
    return {
      ...plain,
      depthSpx: pick([0, 40, 160, -40]),
      opacity: pick([1, 1, 0.5]),
      repeat: pick(['none', 'none', 'none', 'across', 'both'] as const),
      mount: pick([{ on: 'stage' }, { on: 'stage' }, { on: 'camera' }] as const),
      transform: {
        ...plain.transform,
        xSpx: between(-60, 60),
        ySpx: between(-30, 30),
        scaleX: between(0.6, 1.8) * mirrored(),
        scaleY: between(0.6, 1.8) * mirrored(),
        rotationDeg: pick([0, 0, 0, 90, 12, -35]),
      },
    };
  });
  return { scene: testScene(planes, { frame: FRAME, homeDistanceSpx: 160, lengthFrames: 1 }), maps };
}

/** Every px of the frame by itself, at full resolution, without a grid: what comes through, and what shows of each plane. */
function bruteForce(scene: Scene, maps: ReadonlyMap<string, AlphaMap>) {
  const plan = framePlan(scene, 1);
  const seen = new Map<string, number>();
  const borders = new Map<string, number>();
  let [nothing, holeBorder] = [0, 0];
  const nearFirst = plan.planes.toReversed().flatMap((one) => {
    if (one.state !== 'drawn' || one.shown.kind !== 'image') return [];
    const back = invertAffine(one.artToFrame);
    return back ? [{ one, back, map: maps.get(one.shown.art.id)! }] : [];
  });
  const at = (x: number, y: number) => {
    let light = 1;
    const shares = new Map<string, number>();
    for (const { one, back, map } of nearFirst) {
      let { x: u, y: v } = applyAffine(back, { x, y });
      if (repeatsAcross(one.repeat)) u -= Math.floor(u / map.widthPx) * map.widthPx;
      if (repeatsDown(one.repeat)) v -= Math.floor(v / map.heightPx) * map.heightPx;
      const alpha = (alphaAt(map, map.levels[0]!, u, v) / 255) * one.opacity;
      shares.set(one.planeId, light * alpha);
      light *= 1 - alpha;
    }
    return { light, shares };
  };
  const rowAt = (y: number) => Array.from({ length: FRAME.widthPx }, (_, x) => at(x + 0.5, y + 0.5));
  let row = rowAt(0);
  for (let y = 0; y < FRAME.heightPx; y++) {
    const next = rowAt(y + 1);
    row.forEach((here, x) => {
      const others = [row[x - 1], next[x]].filter((other) => other !== undefined);
      nothing += here.light;
      for (const other of others) if (Math.abs(other.light - here.light) > 0.01) holeBorder += 1;
      for (const [id, share] of here.shares) {
        seen.set(id, (seen.get(id) ?? 0) + share);
        for (const other of others)
          if (Math.abs((other.shares.get(id) ?? 0) - share) > 0.01)
            borders.set(id, (borders.get(id) ?? 0) + 1);
      }
    });
    row = next;
  }
  return { nothing, holeBorder, seen, borders };
}

describe('the survey beside brute force at full resolution', () => {
  it(`has the areas of ${SCENES} random scenes to a cell's border`, () => {
    let compared = 0;
    for (let seed = 1; seed <= SCENES; seed++) {
      const { scene, maps } = randomScene(seed);
      const rows = surveyRows(scene, (id) => maps.get(id) ?? null);
      const truth = bruteForce(scene, maps);
      // Along every border a cell of 4 px may be counted wholly where half of it is meant.
      const within = (border: number) => 2 * border + 16;
      expect(Math.abs(rows.holePx[0]! - truth.nothing), `hole of scene ${seed}`).toBeLessThanOrEqual(
        within(truth.holeBorder),
      );
      if (truth.nothing < 1) expect(rows.holePx[0]).toBeLessThan(1);
      for (const [id, { seenPx }] of rows.planes) {
        const border = truth.borders.get(id) ?? 0;
        expect(
          Math.abs(seenPx[0]! - (truth.seen.get(id) ?? 0)),
          `${id} of scene ${seed}`,
        ).toBeLessThanOrEqual(within(border));
        compared += 1;
      }
    }
    expect(compared).toBeGreaterThan(SCENES * 2);
  });
});
