import { setFlagsFromString } from 'node:v8';
import { describe, expect, it } from 'vitest';
import { type Affine, compose, IDENTITY, rotation, scaling, translation } from '../geometry/index.ts';
import { type LevelRaster, premultiply, type Raster, raster } from '../image/index.ts';
import {
  BLACK,
  CLEAR,
  pathEdges,
  type RenderLayer,
  type RenderView,
  renderLayers,
  renderOracle,
} from '../picture/index.ts';
import { REPEATS, type Repeat } from '../scene/index.ts';
import { ellipseOutline } from '../shapes/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import {
  randomImage,
  testArt,
  testArtId,
  testKernel,
  testPlane,
  testPlaneId,
  testRenderer,
  testScene,
} from '../testing/index.ts';
import { seededRandom } from '../units/index.ts';
import { SingleThreadRenderer } from './kernel.ts';
import { buildLevels } from './memory/index.ts';
import { PIXEL_FORMATS } from './pixel-format.ts';
import { mayRunQuickKernel } from './quick-kernel.ts';

const PLAIN_LOOK = { matrix: null, air: null, filtered: false };
const VIEW: RenderView = { widthPx: 203, heightPx: 117, frameToImage: IDENTITY, background: CLEAR };
/** What is tried in a hundred scenes: several tiles wide and high, and ends within one. */
const SMALL: RenderView = { ...VIEW, widthPx: 107, heightPx: 61 };

/** A layer through the same resolution of maps and levels that plans go through. */
function layer(
  image: Raster,
  id: number,
  artToFrame: Affine,
  opacity: number,
  repeat: Repeat = 'none',
  size: { widthPx: number; heightPx: number } = VIEW,
): RenderLayer[] {
  const plane = testPlane({ id: testPlaneId(`p${id}`) }, image.widthPx, image.heightPx);
  const shown = { kind: 'image' as const, art: testArt(id, image.widthPx, image.heightPx) };
  const facts = {
    planeId: plane.id,
    shown,
    distanceSpx: 1,
    speed: 1,
    opacity,
    blurPx: 0,
    defocusPx: 0,
    look: PLAIN_LOOK,
    mode: 'paint' as const,
    softEdgePx: 0,
    repeat,
  };
  const { pose } = framePlan(testScene(), 1);
  const planes = [{ ...facts, state: 'drawn' as const, artToFrame }];
  const { widthPx, heightPx } = size;
  const view = { ...VIEW, widthPx, heightPx };
  return renderLayers({ frame: 1, widthPx, heightPx, pose, vignette: 0, glow: 0, light: null, planes }, view);
}

/** Random paint that is there or not: no alpha in between. */
function cutOut(seed: number, widthPx: number, heightPx: number): Raster<'straight'> {
  const image = randomImage(seed, widthPx, heightPx);
  for (let i = 3; i < image.data.length; i += 4) image.data[i] = (image.data[i] as number) < 90 ? 0 : 255;
  return image;
}

function worstDifference(pixels: Raster, oracle: Float64Array): number {
  let worst = 0;
  for (let i = 0; i < oracle.length; i++) {
    worst = Math.max(worst, Math.abs((pixels.data[i] as number) - (oracle[i] as number)));
  }
  return worst;
}

async function kernelAgainstOracle(
  seed: number,
  turned: boolean,
  background = CLEAR,
  tiled = false,
  size: { widthPx: number; heightPx: number } = SMALL,
): Promise<number> {
  const random = seededRandom(seed);
  const renderer = await testRenderer();
  const images = new Map<string, LevelRaster[]>();
  const layers = Array.from({ length: 1 + Math.floor(random() * 7) }, (_, i) => {
    // Held in lanes and in bytes, turn by turn.
    const image = (i % 2 === 0 ? randomImage : cutOut)(
      seed * 31 + i,
      2 + Math.floor(random() * 300),
      2 + Math.floor(random() * 200),
    );
    renderer.addImage(testArtId(i), image);
    images.set(testArtId(i), buildLevels(image));
    const grow = 0.08 * 40 ** random();
    const sign = () => (random() < 0.3 ? -1 : 1);
    const about = compose(
      scaling(grow * sign(), grow * sign() * (0.8 + random() * 0.4)),
      translation(-image.widthPx / 2, -image.heightPx / 2),
    );
    const turnedBy = turned ? rotation(random() * 360) : IDENTITY;
    const map = compose(
      translation(random() * size.widthPx, random() * size.heightPx),
      compose(turnedBy, about),
    );
    const repeat = tiled ? REPEATS[Math.floor(random() * REPEATS.length)] : 'none';
    return layer(image, i, map, random() < 0.5 ? 1 : random(), repeat, size);
  }).flat();
  const view = { ...VIEW, ...size, background };
  return worstDifference(
    renderer.render(layers, view),
    renderOracle(layers, images, view.widthPx, view.heightPx, background),
  );
}

/** Turned or straight, tiled, much reduced and faded planes with shapes between them, in a picture that ends within a block. */
async function mixedScene(seed: number, renderers: readonly SingleThreadRenderer[], turned = true) {
  const random = seededRandom(seed);
  const images = new Map<string, LevelRaster[]>();
  const about = (image: { widthPx: number; heightPx: number }, grow: number, squash: number) =>
    compose(
      compose(
        translation(random() * SMALL.widthPx, random() * SMALL.heightPx),
        rotation(turned ? random() * 360 : 0),
      ),
      compose(scaling(grow, grow * squash), translation(-image.widthPx / 2, -image.heightPx / 2)),
    );
  const layers = Array.from({ length: 7 }, (_, i): RenderLayer[] => {
    const opacity = random() < 0.5 ? 1 : random();
    if (i % 3 === 2) {
      const outline = ellipseOutline({ x0: -60, y0: -30, x1: 60, y1: 30 });
      const map = about({ widthPx: 0, heightPx: 0 }, 0.5 + random(), 1);
      return [
        {
          kind: 'path',
          edges: pathEdges([outline], map, SMALL.widthPx, SMALL.heightPx),
          paint: { kind: 'solid', colour: '#3070c0', opacity: 0.7 },
          imageToGradient: IDENTITY,
          look: null,
          opacity,
        },
      ];
    }
    const image = (i % 2 === 0 ? randomImage : cutOut)(
      seed * 53 + i,
      20 + Math.floor(random() * 300),
      20 + Math.floor(random() * 200),
    );
    for (const renderer of renderers) renderer.addImage(testArtId(i), image);
    images.set(testArtId(i), buildLevels(image));
    // The fifth is so small that even of its last level a px takes more texels than the stepping holds.
    const map = about(image, i === 4 ? 0.0005 : 0.3 + 2 * random(), 0.8 + 0.4 * random());
    return layer(image, i, map, opacity, i === 3 ? 'across' : 'none', SMALL);
  }).flat();
  return { layers, images };
}

describe('the kernel in blocks', () => {
  it.each([1, 2, 3, 4, 5, 6])(
    'stays near the float renderer with shapes in between, scene %i',
    async (seed) => {
      const renderer = await testRenderer();
      const { layers, images } = await mixedScene(seed, [renderer]);
      const pixels = renderer.render(layers, { ...SMALL, background: BLACK });
      const oracle = renderOracle(layers, images, SMALL.widthPx, SMALL.heightPx, BLACK);
      // Shapes may miss by half a level more than images do: paths.test.ts.
      expect(worstDifference(pixels, oracle)).toBeLessThanOrEqual(2);
    },
  );

  it('draws the same bytes with the quicker instructions', async () => {
    setFlagsFromString('--experimental-wasm-relaxed-simd');
    expect(await mayRunQuickKernel()).toBe(true);
    const quick = await testKernel('kernel-quick.wasm');
    const renderers = [await testRenderer(), new SingleThreadRenderer(quick.kernel, quick.memory)];
    for (const seed of [11, 12, 13, 14]) {
      const { layers } = await mixedScene(seed, renderers, seed % 2 === 0);
      for (const format of PIXEL_FORMATS) {
        const [plain, quicker] = renderers.map((renderer) => renderer.renderAs(layers, SMALL, format).data);
        expect(new Set(plain).size).toBeGreaterThan(50);
        expect(quicker?.every((value, i) => value === plain?.[i])).toBe(true);
      }
    }
  });
});

describe('the kernel against the float renderer', () => {
  it.each(Array.from({ length: 24 }, (_, i) => i + 1))(
    'stays within 1/255 without turning, scene %i',
    async (seed) => {
      expect(await kernelAgainstOracle(seed, false)).toBeLessThanOrEqual(1);
    },
  );

  it.each(Array.from({ length: 24 }, (_, i) => i + 101))(
    'stays within 1/255 turned, scene %i',
    async (seed) => {
      expect(await kernelAgainstOracle(seed, true, BLACK)).toBeLessThanOrEqual(1);
    },
  );

  it.each([301, 302, 303, 304, 305, 306])(
    'stays within 1/255 in a picture wider than its widest blocks, scene %i',
    async (seed) => {
      const size = { widthPx: 2055, heightPx: 21 };
      expect(await kernelAgainstOracle(seed, false, BLACK, seed % 2 === 0, size)).toBeLessThanOrEqual(1);
    },
  );

  it.each(Array.from({ length: 40 }, (_, i) => i + 201))(
    'stays within 1/255 tiled, scene %i',
    async (seed) => {
      expect(await kernelAgainstOracle(seed, seed % 2 === 0, CLEAR, true)).toBeLessThanOrEqual(1);
    },
  );

  it('tiles as copies side by side would lie, to the bit, wherever the frame cuts them', async () => {
    const renderer = await testRenderer();
    const image = cutOut(9, 64, 48);
    renderer.addImage(testArtId(1), image);
    const tiled = renderer.render(layer(image, 1, translation(-1000 * 64 + 13, 7 - 48 * 3), 1, 'both'), VIEW);
    const copies = [-1, 0, 1, 2, 3].flatMap((row) =>
      [-1, 0, 1, 2, 3, 4].flatMap((column) =>
        layer(image, 1, translation(13 + column * 64, 7 + row * 48), 1, 'none'),
      ),
    );
    const apart = renderer.render(copies, VIEW).data;
    expect(tiled.data.every((value, i) => value === apart[i])).toBe(true);
  });

  it('closes the seam: a tiled gradient that meets itself has no step at any size or turn', async () => {
    const renderer = await testRenderer();
    const wave = raster(96, 40, 'straight');
    for (let i = 0; i < 96 * 40; i++) {
      const value = Math.round(128 + 100 * Math.sin(((i % 96) / 96) * 2 * Math.PI));
      wave.data.set([value, value, value, 255], i * 4);
    }
    renderer.addImage(testArtId(1), wave);
    for (const [grow, turn] of [
      [1.37, 0],
      [0.61, 0],
      [0.23, 0],
      [0.9, 17],
    ] as const) {
      const map = compose(rotation(turn), scaling(grow));
      const drawn = renderer.render(layer(wave, 1, map, 1, 'both'), VIEW);
      // The steepest the wave may be: 100·2π/96 a texel, rounded values on both sides.
      const most = (100 * 2 * Math.PI) / 96 / grow + 3;
      for (let y = 5; y < VIEW.heightPx; y += 9) {
        for (let x = 1; x < VIEW.widthPx; x++) {
          const at = (y * VIEW.widthPx + x) * 4;
          const step = Math.abs((drawn.data[at] as number) - (drawn.data[at - 4] as number));
          expect(step).toBeLessThanOrEqual(most);
          expect(drawn.data[at + 3]).toBe(255);
        }
      }
    }
  });

  it('notices a layer that is drawn one pixel off', async () => {
    const renderer = await testRenderer();
    const image = randomImage(5, 90, 80);
    renderer.addImage(testArtId(1), image);
    const images = new Map([[testArtId(1) as string, buildLevels(image)]]);
    const right = layer(image, 1, translation(20, 10), 1);
    const wrong = renderOracle(
      layer(image, 1, translation(21, 10), 1),
      images,
      VIEW.widthPx,
      VIEW.heightPx,
      CLEAR,
    );
    expect(worstDifference(renderer.render(right, VIEW), wrong)).toBeGreaterThan(20);
  });
});

describe('exactness', () => {
  it('passes a plane at whole pixels through untouched', async () => {
    const renderer = await testRenderer();
    for (const [n, make] of [randomImage, cutOut].entries()) {
      const image = make(9, VIEW.widthPx, VIEW.heightPx);
      renderer.addImage(testArtId(n), image);
      const { data } = renderer.renderAs(layer(image, n, IDENTITY, 1), VIEW, 'straight8');
      // A clear px has no colour, and of an alpha of 1 or 2 there are fewer lanes than colours.
      const apart = image.data.filter((value, i) => {
        const alpha = image.data[i | 3] as number;
        return Math.abs((data[i] as number) - (alpha === 0 ? 0 : value)) > (alpha < 3 ? 1 : 0);
      });
      expect(apart).toHaveLength(0);
    }
  });

  it.each([90, 180, 270])('passes a plane turned by %i° through untouched', async (degrees) => {
    const renderer = await testRenderer();
    const image = cutOut(10, 64, 64);
    renderer.addImage(testArtId(1), image);
    const about = compose(translation(32, 32), compose(rotation(degrees), translation(-32, -32)));
    const out = renderer.render(layer(image, 1, about, 1), VIEW);
    const source = premultiply(image);
    for (let y = 0; y < 64; y++) {
      for (let x = 0; x < 64; x++) {
        const [tx, ty] = { 90: [63 - y, x], 180: [63 - x, 63 - y], 270: [y, 63 - x] }[degrees] as [
          number,
          number,
        ];
        const from = [...source.data.subarray((y * 64 + x) * 4, (y * 64 + x) * 4 + 4)];
        const to = [...out.data.subarray((ty * VIEW.widthPx + tx) * 4, (ty * VIEW.widthPx + tx) * 4 + 4)];
        expect(to).toEqual(from);
      }
    }
  });

  it('hides everything behind opaque paint and nothing beside it', async () => {
    const renderer = await testRenderer();
    const far = raster(300, 200, 'straight');
    const near = raster(100, 100, 'straight');
    for (let i = 0; i < far.data.length; i += 4) far.data.set([200, 10, 10, 255], i);
    for (let i = 0; i < near.data.length; i += 4) near.data.set([10, 200, 10, 255], i);
    renderer.addImage(testArtId(1), far);
    renderer.addImage(testArtId(2), near);
    const layers = [...layer(far, 1, IDENTITY, 1), ...layer(near, 2, translation(40, 8), 1)];
    const out = renderer.render(layers, VIEW);
    const at = (x: number, y: number) => [
      ...out.data.subarray((y * VIEW.widthPx + x) * 4, (y * VIEW.widthPx + x) * 4 + 4),
    ];
    expect(at(39, 50)).toEqual([200, 10, 10, 255]);
    expect(at(40, 50)).toEqual([10, 200, 10, 255]);
    expect(at(139, 107)).toEqual([10, 200, 10, 255]);
    expect(at(139, 108)).toEqual([200, 10, 10, 255]);
  });

  it('shows the background where nothing is drawn', async () => {
    const renderer = await testRenderer();
    const out = renderer.render([], { ...VIEW, background: { r: 46, g: 47, b: 48, a: 255 } });
    expect([...out.data.subarray(0, 4)]).toEqual([46, 47, 48, 255]);
    expect([...out.data.subarray(-4)]).toEqual([46, 47, 48, 255]);
  });
});
