import { describe, expect, it } from 'vitest';
import { type Affine, compose, rotation, scaling, translation } from '../../geometry/index.ts';
import type { Raster } from '../../image/index.ts';
import { type Paint, rampOf } from '../../paint/index.ts';
import { ellipseOutline, type Outline, rectangleOutline } from '../../shapes/index.ts';
import { testRenderer } from '../../testing/index.ts';
import { seededRandom } from '../../units/index.ts';
import type { PathLayer } from '../layer.ts';
import { renderOracle } from '../oracle.ts';
import { BLACK, CLEAR } from '../view.ts';
import { pathEdges } from './path-edges.ts';

const VIEW = { widthPx: 83, heightPx: 61, frameToImage: scaling(1), background: CLEAR };
const SOLID: Paint = { kind: 'solid', colour: '#c08040', opacity: 1 };

const layerOf = (
  outlines: readonly Outline[],
  map: Affine,
  paint: Paint,
  opacity = 1,
  gradient: Affine = scaling(1),
) =>
  ({
    kind: 'path',
    edges: pathEdges(outlines, map, VIEW.widthPx, VIEW.heightPx),
    paint,
    imageToGradient: gradient,
    look: null,
    opacity,
  }) satisfies PathLayer;

const worst = (pixels: Raster, oracle: Float64Array): number =>
  oracle.reduce((most, value, i) => Math.max(most, Math.abs((pixels.data[i] as number) - value)), 0);

describe('paths in the kernel', () => {
  it.each(Array.from({ length: 24 }, (_, i) => i + 1))(
    'stay within 1/255 of the oracle (seed %i)',
    async (seed) => {
      const random = seededRandom(seed);
      const renderer = await testRenderer();
      const layers = Array.from({ length: 1 + Math.floor(random() * 4) }, () => {
        const box = { x0: -30 * random(), y0: -20 * random(), x1: 1 + 30 * random(), y1: 1 + 40 * random() };
        const outline = random() < 0.5 ? ellipseOutline(box) : rectangleOutline(box);
        const map = compose(
          translation(random() * VIEW.widthPx, random() * VIEW.heightPx),
          compose(rotation(random() * 360), scaling(0.3 + 2 * random(), 0.3 + 2 * random())),
        );
        const paint: Paint = {
          kind: 'solid',
          colour: `#${Math.floor(random() * 0xffffff)
            .toString(16)
            .padStart(6, '0')}`,
          opacity: random() < 0.5 ? 1 : random(),
        };
        return layerOf([outline], map, paint, random() < 0.5 ? 1 : random());
      });
      const oracle = renderOracle(layers, new Map(), VIEW.widthPx, VIEW.heightPx, BLACK);
      const pixels = renderer.render(layers, { ...VIEW, background: BLACK });
      // Half a level more than for images: the oracle's lines miss up to 1/128 of a pixel at each corner.
      expect(worst(pixels, oracle)).toBeLessThanOrEqual(2);
    },
  );

  it('cover exactly half of the pixels that an edge halves, and all of those inside', async () => {
    const renderer = await testRenderer();
    const box = rectangleOutline({ x0: 10.5, y0: 5, x1: 20, y1: 8.25 });
    const { data } = renderer.render([layerOf([box], scaling(1), SOLID)], VIEW);
    const alpha = (x: number, y: number) => data[(y * VIEW.widthPx + x) * 4 + 3];
    expect([alpha(9, 6), alpha(10, 6), alpha(11, 6), alpha(19, 6), alpha(20, 6)]).toEqual([
      0, 128, 255, 255, 0,
    ]);
    expect([alpha(15, 4), alpha(15, 5), alpha(15, 8), alpha(15, 9)]).toEqual([0, 255, 64, 0]);
  });

  it('that are far larger than the picture fill it all', async () => {
    const renderer = await testRenderer();
    const huge = rectangleOutline({ x0: -1e6, y0: -1e6, x1: 1e6, y1: 1e6 });
    const { data } = renderer.render([layerOf([huge], rotation(33), SOLID)], VIEW);
    for (let i = 0; i < data.length; i += 4)
      expect([...data.subarray(i, i + 4)]).toEqual([0xc0, 0x80, 0x40, 255]);
  });
});

describe('gradients in the kernel', () => {
  const slow: Paint = {
    kind: 'linear',
    angleDeg: 90,
    space: 'srgb',
    stops: [
      { at: 0, colour: '#303030', opacity: 1 },
      { at: 1, colour: '#383838', opacity: 1 },
    ],
  };
  const all = rectangleOutline({ x0: 0, y0: 0, x1: VIEW.widthPx, y1: VIEW.heightPx });

  it.each(['linear', 'radial'] as const)(
    'stay within 1/255 of the oracle though they are dithered: %s',
    async (kind) => {
      const stops = [
        { at: 0, colour: '#102040', opacity: 1 },
        { at: 0.4, colour: '#f0a060', opacity: 0.5 },
        { at: 1, colour: '#ffffff', opacity: 1 },
      ];
      const paint: Paint =
        kind === 'linear'
          ? { kind, angleDeg: 60, space: 'oklab', stops }
          : { kind, centreX: 0.3, centreY: 0.6, radius: 1, space: 'oklab', stops };
      const gradient = compose(rotation(20), compose(scaling(1 / 80), translation(-20, -10)));
      const layer = layerOf([all], scaling(1), paint, 1, gradient);
      const oracle = renderOracle([layer], new Map(), VIEW.widthPx, VIEW.heightPx, BLACK);
      const pixels = (await testRenderer()).render([layer], { ...VIEW, background: BLACK });
      expect(worst(pixels, oracle)).toBeLessThanOrEqual(1.15);
    },
  );

  it('do not band: the mean of a small window follows the gradient between whole levels', async () => {
    const layer = layerOf([all], scaling(1), slow, 1, scaling(1 / VIEW.widthPx));
    const { data } = (await testRenderer()).render([layer], VIEW);
    const ramp = rampOf(slow);
    for (let x = 8; x + 8 < VIEW.widthPx; x += 5) {
      let sum = 0;
      for (let dy = 0; dy < 8; dy++)
        for (let dx = 0; dx < 8; dx++) sum += data[((8 + dy) * VIEW.widthPx + x + dx) * 4] as number;
      const expected = ramp[Math.floor(((x + 4) / VIEW.widthPx) * (ramp.length / 4)) * 4] as number;
      expect(Math.abs(sum / 64 - expected)).toBeLessThan(0.2);
    }
  });
});
