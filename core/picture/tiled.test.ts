import { describe, expect, it } from 'vitest';
import { compose, scaling, translation } from '../geometry/index.ts';
import { encodeLayers, jobBytes } from '../kernel/index.ts';
import type { Paint } from '../paint/index.ts';
import type { Content, Plane } from '../scene/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import { randomImage, testArt, testPlane, testPlaneId, testRenderer, testScene } from '../testing/index.ts';
import type { RenderLayer } from './layer.ts';
import { renderLayers } from './layers.ts';
import { CLEAR, type RenderView } from './view.ts';

const id = testPlaneId('strip');
const VIEW = { widthPx: 320, heightPx: 180, frameToImage: scaling(1 / 6), background: CLEAR };
const layersOf = (plane: Plane, view: RenderView = VIEW) =>
  renderLayers(framePlan(testScene([plane]), 1), view);
const WHOLE = { widthPx: 1920, heightPx: 1080, frameToImage: scaling(1), background: CLEAR };

const bricks: Content = {
  kind: 'shapes',
  widthPx: 120,
  heightPx: 60,
  shapes: [
    {
      id: 'a',
      path: 'M10 10 L70 10 L70 40 L10 40 Z',
      paint: { kind: 'solid', colour: '#a05030', opacity: 1 },
    },
    {
      id: 'b',
      path: 'M90 30 L118 30 L118 55 L90 55 Z',
      paint: { kind: 'solid', colour: '#405080', opacity: 1 },
    },
  ],
};

describe('the levels of a tiled image', () => {
  it.each([
    [101, 99, 0.1],
    [509, 301, 0.3],
    [7, 5, 0.04],
  ])('of %i × %i at %f are the mean of what each px covers', async (widthPx, heightPx, scale) => {
    const renderer = await testRenderer();
    const image = randomImage(3, widthPx, heightPx);
    for (let i = 3; i < image.data.length; i += 4) image.data[i] = 255;
    const art = testArt(1, widthPx, heightPx);
    renderer.addImage(art.id, image);
    const plane = testPlane({ id, repeat: 'both', content: { kind: 'still', art, made: null } });
    const view = { ...VIEW, frameToImage: scaling(scale) };
    const { data } = renderer.render(layersOf(plane, view), view);
    const meanOf = (of: Uint8Array | Uint8ClampedArray, c: number) =>
      Array.from(of)
        .filter((_, i) => i % 4 === c)
        .reduce((sum, value) => sum + value, 0) /
      (of.length / 4);
    for (const c of [0, 1, 2]) {
      const [mean, drawn] = [meanOf(image.data, c), meanOf(data, c)];
      // Over many px it is the mean of the art; and no px leaves what the noise of so many texels allows.
      expect(Math.abs(drawn - mean)).toBeLessThan(1.5);
      const spread = 74 * Math.max(scale, 1 / Math.min(widthPx, heightPx));
      expect(Math.max(...data.filter((_, i) => i % 4 === c))).toBeLessThan(mean + 5 * spread + 2);
    }
  });

  it('still close where they are much reduced', async () => {
    const renderer = await testRenderer();
    const image = randomImage(11, 201, 90);
    const art = { ...testArt(1, 201, 90) };
    renderer.addImage(art.id, image);
    const plane = testPlane({ id, repeat: 'across', content: { kind: 'still', art, made: null } });
    const moved = { ...plane, transform: { ...plane.transform, xSpx: 201 } };
    const [here, there] = [plane, moved].map((p) => renderer.render(layersOf(p), VIEW).data);
    // A whole period further on it is the same picture, but for the rounding of the map.
    expect(Array.from(here!).every((value, i) => Math.abs(value - there![i]!) <= 1)).toBe(true);
    expect(here!.some((value) => value > 0)).toBe(true);
  });
});

describe('tiled shapes', () => {
  it('are drawn as copies side by side, as many as the view shows', () => {
    const plane = testPlane({ id, content: bricks, repeat: 'both' });
    const edges = (layers: readonly RenderLayer[]) =>
      layers.reduce((sum, layer) => sum + (layer.kind === 'path' ? layer.edges.length / 4 : 0), 0);
    const once = edges(layersOf({ ...plane, repeat: 'none' }));
    // 1920 × 1080 of a tile of 120 × 60: 16 by 18, and one more where the edge cuts a row.
    expect(edges(layersOf(plane))).toBeGreaterThanOrEqual(15 * 17 * once);
    expect(edges(layersOf(plane))).toBeLessThan(18 * 20 * once);
    // Even paint is one layer a row and path, however many copies stand in it.
    expect(layersOf(plane).length).toBeLessThanOrEqual(20 * 2);
    expect(layersOf({ ...plane, repeat: 'none' })).toHaveLength(2);
    expect(layersOf({ ...plane, repeat: 'across' })).toHaveLength(2);
  });

  const tile = (widthPx: number, heightPx: number, paint: Paint): Plane['content'] => ({
    kind: 'card',
    widthPx,
    heightPx,
    paint,
  });
  const GREY: Paint = { kind: 'solid', colour: '#808080', opacity: 1 };

  it.each([4, 1, 0.1, 0.004])('of %f px cover the frame to its edge', async (widthPx) => {
    const renderer = await testRenderer();
    const plane = testPlane({ id, content: tile(widthPx, 2000, GREY), repeat: 'across' }, widthPx, 2000);
    const { data } = renderer.render(layersOf(plane, WHOLE), WHOLE);
    for (const x of [0, 1, 959, 1598, 1601, 1918, 1919])
      expect([x, ...data.subarray((540 * 1920 + x) * 4, (540 * 1920 + x) * 4 + 4)]).toEqual([
        x,
        128,
        128,
        128,
        255,
      ]);
  });

  it('of a gradient take little memory however many they are, and all look alike', async () => {
    const ramp: Paint = {
      kind: 'linear',
      angleDeg: 0,
      space: 'srgb',
      stops: [
        { at: 0, colour: '#000000', opacity: 1 },
        { at: 1, colour: '#ffffff', opacity: 1 },
      ],
    };
    const plane = testPlane({ id, content: tile(20, 20, ramp), repeat: 'both' }, 20, 20);
    const layers = layersOf(plane, WHOLE);
    // 96 by 54 copies, and one more where the edge cuts a row.
    expect(layers.length).toBeGreaterThanOrEqual(96 * 54);
    const table = encodeLayers(layers, { levelOf: () => undefined, groupOf: () => undefined });
    const { table: tableBytes, scratch } = jobBytes(WHOLE.widthPx, table);
    expect(tableBytes + scratch).toBeLessThan(12e6);
    const renderer = await testRenderer();
    const { data } = renderer.render(layers, WHOLE);
    const at = (x: number, y: number) => [...data.subarray((y * 1920 + x) * 4, (y * 1920 + x) * 4 + 4)];
    // A whole number of copies further on, up to the 8 × 8 pattern of dithering.
    for (const [x, y] of [
      [3, 5],
      [11, 17],
    ] as const)
      for (const [dx, dy] of [
        [1880, 0],
        [0, 1040],
        [1880, 1040],
      ] as const)
        expect(at(x + dx, y + dy)).toEqual(at(x, y));
    expect(new Set(data).size).toBeGreaterThan(30);
  });

  it('look the same a whole tile further on', async () => {
    const renderer = await testRenderer();
    const plane = testPlane({ id, content: bricks, repeat: 'both' });
    const moved = { ...plane, transform: { ...plane.transform, xSpx: -240, ySpx: 180 } };
    const [here, there] = [plane, moved].map((p) => renderer.render(layersOf(p), VIEW).data);
    expect(here).toEqual(there);
    const next = { ...plane, transform: { ...plane.transform, xSpx: 40 } };
    expect(renderer.render(layersOf(next), VIEW).data).not.toEqual(here);
  });
});

describe('a kernel that is given a tiled layer', () => {
  it('never reads beside its image, wherever the view lies', async () => {
    const renderer = await testRenderer();
    // Opaque to its edges: what is read beside the image would show as a lighter alpha.
    const image = randomImage(2, 64, 32);
    for (let i = 3; i < image.data.length; i += 4) image.data[i] = 255;
    const art = testArt(1, 64, 32);
    renderer.addImage(art.id, image);
    for (const [x, y, grow] of [
      [0, 0, 6],
      [17.3, -9.7, 6.01],
      [-1e5 + 0.5, 1e5, 3.3],
      [31.999, 15.999, 11],
    ] as const) {
      const plane = testPlane({ id, repeat: 'both', content: { kind: 'still', art, made: null } });
      const map = compose(translation(x, y), scaling(grow));
      const placed = { ...plane.transform, xSpx: map.e, ySpx: map.f, scaleX: map.a, scaleY: map.d };
      const { data } = renderer.render(layersOf({ ...plane, transform: placed }), VIEW);
      const clear = data.filter((value, i) => i % 4 === 3 && value < 254).length;
      expect({ x, y, grow, clear }).toEqual({ x, y, grow, clear: 0 });
    }
  });
});
