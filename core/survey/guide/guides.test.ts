import { describe, expect, it } from 'vitest';
import { applyNewVersion, onCanvas, type PaintedLayer } from '../../edits/art/index.ts';
import { setPlaneTransform } from '../../edits/planes/index.ts';
import { guideFileName, guideOfFile } from '../../export/guides/index.ts';
import { applyAffine } from '../../geometry/index.ts';
import type { PlaneId, Scene } from '../../scene/index.ts';
import { planeOf } from '../../scene/records/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { testArt } from '../../testing/index.ts';
import { alphaOf, painted, panned, shot, sky, whole } from '../../testing/painted-planes.ts';
import { findingsOf } from '../findings.ts';
import { paintNeed } from '../paint-list.ts';
import { surveyRows } from '../survey-run.ts';
import { guideCanvas } from './guide-canvas.ts';
import { guidePlan } from './guide-plan.ts';
import { SIGHTS, sightOf } from './sight.ts';
import { cellsPath, framesOf } from './sight-paths.ts';

const sightIn = (scene: Scene, id: PlaneId) => {
  const rows = surveyRows(scene, alphaOf);
  return sightOf(rows, findingsOf(rows), alphaOf, id);
};
const canvasIn = (scene: Scene, id: PlaneId) => {
  const rows = surveyRows(scene, alphaOf);
  return guideCanvas(paintNeed(rows, id, findingsOf(rows))!);
};

describe('guides', () => {
  it('grow the art by what the move needs, and show what of it is missing: 20 px at the east', () => {
    const hill = painted('hill', [360, 200], whole);
    const sight = sightIn(panned(shot([hill, sky()]), 40), hill.id)!;
    const { canvas, cellPx, columns, rows, cells } = sight;
    expect(canvas).toMatchObject({ widthPx: 380, heightPx: 200, xPx: 0, yPx: 0, scale: 1, fileWidthPx: 380 });
    const at = (x: number, y: number) => cells[Math.floor(y / cellPx) * columns + Math.floor(x / cellPx)];
    // The frame is 320 × 180 in the middle of the art at first, and 40 px farther east at last: x 20 to 380, y 10 to 190.
    expect([at(10, 100), at(30, 100), at(355, 100), at(370, 100)]).toEqual([
      SIGHTS.never,
      SIGHTS.seen,
      SIGHTS.seen,
      SIGHTS.missing,
    ]);
    expect([at(100, 5), at(100, 195)]).toEqual([SIGHTS.never, SIGHTS.never]);
    const missing = cells.filter((cell) => cell === SIGHTS.missing).length * cellPx ** 2;
    expect(Math.abs(missing - 20 * 180)).toBeLessThanOrEqual((2 * 20 + 2 * 180) * cellPx);
    expect(framesOf(sight).map(({ frame, isWorst }) => [frame, isWorst])).toEqual([
      [1, false],
      [41, true],
    ]);
    expect(sight.first?.corners[0]).toEqual({ x: 20, y: 10 });
    expect(cellsPath(sight, SIGHTS.missing).match(/M/g)).toHaveLength(
      new Set(
        [...cells.keys()].filter((i) => cells[i] === SIGHTS.missing).map((i) => Math.floor(i / columns)),
      ).size,
    );
    expect(cells).toHaveLength(columns * rows);
  });

  it('mark what a tree uncovers that was never painted, and nothing of what it hides all through', () => {
    // A crest with a notch of 40 px behind the tree; the tree slides off it.
    const hill = painted('hill', [600, 200], (x, y) => y >= 100 && !(x >= 280 && x < 320));
    const tree = painted('tree', [60, 200], whole, { depthSpx: -100 });
    const still = shot([tree, hill, sky()]);
    expect(cellsPath(sightIn(still, hill.id)!, SIGHTS.missing)).toBe('');
    expect(cellsPath(sightIn(panned(still, 200), hill.id)!, SIGHTS.missing)).not.toBe('');
  });

  it('are so fine that nothing is soft, and those of what stands in for paint as fine as the move asks', () => {
    const hill = painted('hill', [600, 300], whole);
    const near = setPlaneTransform(shot([hill, sky()]), hill.id, { scaleX: 1.5, scaleY: 1.5 });
    expect(canvasIn(near, hill.id)).toMatchObject({ scale: 1.5, fileWidthPx: 900, fileHeightPx: 450 });
    const small = setPlaneTransform(shot([hill, sky()]), hill.id, { scaleX: 0.9, scaleY: 0.9 });
    expect(canvasIn(small, hill.id)).toMatchObject({ scale: 1, fileWidthPx: 600 });
    const card = {
      ...hill,
      content: {
        kind: 'card' as const,
        widthPx: 600,
        heightPx: 300,
        paint: { kind: 'solid' as const, colour: '#335577', opacity: 1 },
      },
    };
    const low = setPlaneTransform(shot([card, sky()]), hill.id, { scaleX: 0.9, scaleY: 0.9 });
    expect(canvasIn(low, hill.id)).toMatchObject({ scale: 0.9, fileWidthPx: 540, fileHeightPx: 270 });
  });

  it('have the paint alone on them, in its place, without its looks', () => {
    const hill = painted('hill', [360, 200], whole, { opacity: 0.5 });
    const scene = panned(shot([hill, sky()]), -40);
    const plan = guidePlan(scene, sightIn(scene, hill.id)!)!;
    expect(plan.planes).toHaveLength(1);
    // 20 px are missing at the west: the art begins so far in.
    expect(plan.planes[0]).toMatchObject({ opacity: 1, blurPx: 0, artToFrame: { a: 1, d: 1, e: 20, f: 0 } });
    expect([plan.widthPx, plan.heightPx]).toEqual([380, 200]);
  });

  it('are known again by their names, and only while the plane shows the art that they were made of', () => {
    const hill = painted('Far hill', [360, 200], whole);
    const other = painted('near', [360, 200], whole);
    const scene = shot([hill, other]);
    const place = { widthPx: 380, heightPx: 200, xPx: 20, yPx: 0 };
    const name = guideFileName({ ...hill, name: 'Far hill: dusk' }, place);
    expect(name).toMatch(/^Far_hill_dusk_guide_380x200\+20\+0_[0-9a-f]{6}$/);
    for (const file of [`${name}.png`, `${name} copy 2.ora`, `${name}(1).psd`])
      expect(guideOfFile(scene, file)).toEqual({ planeId: hill.id, place });
    expect(guideOfFile(shot([other]), `${name}.png`)).toBeNull();
    expect(guideOfFile(scene, 'hill.png')).toBeNull();
    const moving = { ...hill, content: { kind: 'moving' as const, exposures: [], cycle: 'hold' as const } };
    expect(guideFileName(moving as never, place)).not.toMatch(/_[0-9a-f]{6}$/);
  });

  it('painted over come back in place to the pixel, though the canvas grew and is finer', () => {
    const hill = painted('hill', [360, 200], whole, { depthSpx: 80 });
    const turned = setPlaneTransform(panned(shot([hill, sky()]), -40), hill.id, {
      rotationDeg: 12,
      scaleX: 1.3,
      scaleY: -0.9,
    });
    const canvas = canvasIn(turned, hill.id);
    const file = `${guideFileName(hill, canvas)}.png`;
    // The painter's program has cut off 7 × 3 clear px, at twice the size.
    const k = 2 * canvas.scale;
    const layer: PaintedLayer = {
      file,
      name: 'hill',
      group: null,
      opacity: 1,
      hidden: false,
      art: testArt(7, Math.round(canvas.widthPx * k) - 7, Math.round(canvas.heightPx * k) - 3),
      xPx: 7,
      yPx: 3,
      paintingWidthPx: canvas.widthPx * k,
      paintingHeightPx: canvas.heightPx * k,
      frames: null,
    } as never;
    const next = applyNewVersion(onCanvas(turned, hill.id, file, canvas), {
      layers: [layer],
      matches: [{ kind: 'same-name', planeId: hill.id, layerIndex: 0 }],
      idOf: () => hill.id,
      removeLost: false,
    });
    expect(planeOf(next, hill.id)?.origin?.file).toBe(file);
    const onFrame = (scene: Scene, frame: number, x: number, y: number) => {
      const plan = framePlan(scene, frame).planes.find(({ planeId }) => planeId === hill.id);
      return applyAffine(plan!.artToFrame!, { x, y });
    };
    for (const frame of [1, 20, 41])
      for (const [x, y] of [
        [0, 0],
        [100, 50],
        [360, 200],
      ] as const) {
        const before = onFrame(turned, frame, x, y);
        const after = onFrame(next, frame, k * (x + canvas.xPx) - 7, k * (y + canvas.yPx) - 3);
        expect(Math.hypot(after.x - before.x, after.y - before.y)).toBeLessThan(1e-9);
      }
  });
});
