import { describe, expect, it } from 'vitest';
import { planeFromLayer } from '../../edits/art/index.ts';
import { setCamera } from '../../edits/keys/index.ts';
import { applyAffine } from '../../geometry/index.ts';
import { homePose } from '../../stage/index.ts';
import { framePlan } from '../../staging/frame/index.ts';
import { stageFrameOf } from '../../staging/index.ts';
import { testArt, testPlane, testPlaneId, testScene } from '../../testing/index.ts';
import { homeOnCanvas, stillCanvas, stillFields, stillPlan } from './still-set.ts';

const wide = testPlane({ id: testPlaneId('wide') });
const scene = setCamera(testScene([wide]), { panX: 700, panY: -40 }, { frame: 24, keying: true });

describe('the still set', () => {
  it('has the home frame in the middle of a canvas that holds every field', () => {
    const canvas = stillCanvas(scene);
    const home = homeOnCanvas(scene, canvas);
    // The last field reaches 700 px farther to the right and 40 px farther up: as much is there on the other sides.
    expect([canvas.widthPx, canvas.heightPx, canvas.isCut]).toEqual([1920 + 1400, 1080 + 80, false]);
    expect(home).toEqual({ x0: 700, y0: 40, x1: 2620, y1: 1120 });
    const last = stillFields(scene, canvas).at(-1)!;
    expect(last.corners[0]!.x).toBeCloseTo(1400, 9);
    expect(last.corners[0]!.y).toBeCloseTo(0, 9);
  });

  it('comes back in place: what is drawn on the canvas lies where it was drawn', () => {
    const canvas = stillCanvas(scene);
    const art = testArt(2, canvas.widthPx, canvas.heightPx);
    const drawn = planeFromLayer(testPlaneId('walk'), {
      name: 'walk',
      group: null,
      art,
      moving: null,
      xPx: 0,
      yPx: 0,
      opacity: 1,
      hidden: false,
      file: 'walk.png',
      paintingWidthPx: canvas.widthPx,
      paintingHeightPx: canvas.heightPx,
    });
    const back = testScene([drawn, wide]);
    const atHome = framePlan(back, 1, homePose(stageFrameOf(back))).planes;
    const onCanvas = stillPlan(scene, canvas, wide.id).planes[0]!;
    const [mine, under] = [drawn.id, wide.id].map((id) => atHome.find(({ planeId }) => planeId === id)!);
    // A spot of the plane, as it is seen on the canvas, drawn over there.
    const spot = { x: 37, y: 21 };
    const drawnAt = applyAffine(onCanvas.artToFrame!, spot);
    const [shown, meant] = [applyAffine(mine!.artToFrame!, drawnAt), applyAffine(under!.artToFrame!, spot)];
    expect(shown.x).toBeCloseTo(meant.x, 9);
    expect(shown.y).toBeCloseTo(meant.y, 9);
  });

  it('holds an odd frame in its middle, and cuts what is too large on both sides alike', () => {
    const odd = { ...scene, frame: { ...scene.frame, widthPx: 1921 } };
    const canvas = stillCanvas(odd);
    expect(canvas.widthPx % 2).toBe(1);
    expect(Number.isInteger(canvas.x0)).toBe(true);
    const far = stillCanvas(setCamera(scene, { panX: 60_000 }, { frame: 24, keying: true }));
    expect([far.widthPx, far.isCut]).toEqual([16_384, true]);
    const home = homeOnCanvas(scene, far);
    expect(home.x0).toBe(far.widthPx - home.x1);
  });
});
