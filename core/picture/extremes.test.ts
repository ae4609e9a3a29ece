import { describe, expect, it } from 'vitest';
import { IDENTITY, scaling } from '../geometry/index.ts';
import { premultiply, raster } from '../image/index.ts';
import { buildLevels } from '../kernel/memory/index.ts';
import type { Plane } from '../scene/index.ts';
import { newPlane } from '../staging/content/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import { randomImage, testArt, testArtId, testPlaneId, testRenderer, testScene } from '../testing/index.ts';
import { renderLayers } from './layers.ts';
import { renderOracle } from './oracle.ts';
import { CLEAR, type RenderView } from './view.ts';

const image = randomImage(3, 120, 90);
const levels = new Map([[testArtId(1) as string, buildLevels(image)]]);

function planeOf(part: Partial<Plane['transform']>, more: Partial<Plane> = {}): Plane {
  const content = { kind: 'still', art: testArt(1, 120, 90), made: null } as const;
  const plane = newPlane(testPlaneId('a'), 'a', content);
  return { ...plane, ...more, transform: { ...plane.transform, ...part } };
}

async function drawn(plane: Plane | null, view: RenderView) {
  const renderer = await testRenderer();
  renderer.addImage(testArtId(1), image);
  const { widthPx, heightPx } = view;
  const scene = testScene(plane ? [plane] : [], { frame: { widthPx, heightPx } });
  const layers = renderLayers(framePlan(scene, 1), view);
  return { layers, pixels: renderer.render(layers, view).data };
}
const viewOf = (widthPx: number, heightPx: number): RenderView => ({
  widthPx,
  heightPx,
  frameToImage: IDENTITY,
  background: CLEAR,
});
const VIEW = viewOf(64, 48);

describe('at the ends of what can be asked', () => {
  it('a scale of 1e-9 leaves no mark and harms nothing', async () => {
    for (const rotationDeg of [0, 33]) {
      const { layers, pixels } = await drawn(planeOf({ scaleX: 1e-9, scaleY: 1e-9, rotationDeg }), VIEW);
      expect(layers).toEqual([]);
      expect(pixels.every((v) => v === 0)).toBe(true);
    }
  });

  it.each([1e3, 1e6, 1e9])(
    'a scale of %f shows the one colour that is there, as the oracle does',
    async (scale) => {
      for (const rotationDeg of [0, 33]) {
        // The middle of a texel, so that its colour fills the frame.
        const plane = planeOf({
          scaleX: scale,
          scaleY: scale,
          rotationDeg,
          anchorXArtPx: 60.5,
          anchorYArtPx: 45.5,
        });
        const { layers, pixels } = await drawn(plane, VIEW);
        const oracle = renderOracle(layers, levels, 64, 48, CLEAR);
        let worst = 0;
        for (let i = 0; i < oracle.length; i++) worst = Math.max(worst, Math.abs(pixels[i]! - oracle[i]!));
        expect(worst).toBeLessThanOrEqual(1);
        if (scale > 1e4) expect([...pixels.subarray(0, 4)]).toEqual([...pixels.subarray(-4)]);
      }
    },
  );

  it('a plane at the camera is not drawn, one just before it is', async () => {
    // Home is 1920 px before the datum; what is nearer than a hundredth of that has been passed.
    const at = (depthSpx: number) =>
      framePlan(testScene([planeOf({}, { depthSpx })], { frame: { widthPx: 64, heightPx: 48 } }), 1)
        .planes[0];
    expect(at(-1905)).toMatchObject({ state: 'passed', artToFrame: null });
    const near = at(-1900);
    expect(near).toMatchObject({ state: 'drawn' });
    const { pixels } = await drawn(planeOf({}, { depthSpx: -1900 }), VIEW);
    expect(pixels.some((v) => v > 0)).toBe(true);
  });

  it('an empty scene is the ground', async () => {
    const { pixels } = await drawn(null, { ...VIEW, background: { r: 1, g: 2, b: 3, a: 255 } });
    for (let i = 0; i < pixels.length; i += 4) expect([...pixels.subarray(i, i + 4)]).toEqual([1, 2, 3, 255]);
  });

  it('a frame of 1 × 1 is its one pixel', async () => {
    const plane = planeOf({ anchorXArtPx: 60.5, anchorYArtPx: 45.5 });
    const { pixels } = await drawn(plane, viewOf(1, 1));
    const at = (45 * 120 + 60) * 4;
    expect([...pixels]).toEqual([...premultiply(image).data.subarray(at, at + 4)]);
    const renderer = await testRenderer();
    renderer.addImage(testArtId(1), image);
    const soft = {
      ...plane,
      grade: { brightness: 1, saturation: 1, tint: '#ffffff', tintStrength: 0, blurPx: 30 },
    };
    const plan = framePlan(testScene([soft], { frame: { widthPx: 1, heightPx: 1 } }), 1);
    expect(renderer.render(renderLayers(plan, viewOf(1, 1)), viewOf(1, 1)).data).toHaveLength(4);
  });

  it('a frame of 16 384 × 16 384 is drawn whole', async () => {
    const side = 16_384;
    const renderer = await testRenderer();
    const tile = raster(64, 64, 'straight');
    for (let i = 0; i < 64 * 64; i++) tile.data.set([i % 64, Math.floor(i / 64), 7, 255], i * 4);
    renderer.addImage(testArtId(1), tile);
    const content = { kind: 'still', art: testArt(1, 64, 64), made: null } as const;
    const plane: Plane = { ...newPlane(testPlaneId('a'), 'a', content), repeat: 'both' };
    const plan = framePlan(testScene([plane], { frame: { widthPx: side, heightPx: side } }), 1);
    const view = { ...viewOf(side, side), frameToImage: scaling(1) };
    const { data } = renderer.render(renderLayers(plan, view), view);
    // The middle of the tile is the middle of the frame, so tiles begin 32 px before it.
    for (const [x, y] of [
      [0, 0],
      [side - 1, side - 1],
      [12_345, 678],
      [5, 16_000],
    ] as const) {
      const at = (y * side + x) * 4;
      const within = (v: number) => (v - side / 2 + 32 + 64 * 1000) % 64;
      expect([...data.subarray(at, at + 4)]).toEqual([within(x), within(y), 7, 255]);
    }
  });
});
