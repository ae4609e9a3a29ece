import { describe, expect, it } from 'vitest';
import { setBlendMode, setFilter } from '../edits/look/index.ts';
import { edgeDistances, raster, softEdgeAt } from '../image/index.ts';
import { buildLevels } from '../kernel/memory/index.ts';
import { BLEND_FORMULAS, BLEND_MODES, type BlendMode, blendOver, PLAIN_GRADE } from '../paint/index.ts';
import type { Plane, Repeat, Scene } from '../scene/index.ts';
import { planesOf } from '../scene/records/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import {
  randomImage,
  testArt,
  testArtId,
  testPlane,
  testPlaneId,
  testRenderer,
  testScene,
} from '../testing/index.ts';
import { renderLayers } from './layers.ts';
import { renderOracle } from './oracle.ts';
import { artOfEdge, artsDrawn, edgeOfArt } from './soft-edge.ts';
import { BLACK, CLEAR, type RenderView } from './view.ts';

/**
 * B(cb, cs) worked by hand from the formulas of W3C Compositing and Blending Level 1, section 10.1: backdrop, source, result.
 */
const BY_HAND: Readonly<Record<Exclude<BlendMode, 'plus-lighter'>, readonly [number, number, number][]>> = {
  paint: [[0.25, 0.5, 0.5]],
  multiply: [[0.25, 0.5, 0.125]],
  screen: [[0.25, 0.5, 0.625]],
  // HardLight(cs, cb): at cb 0.25 2·0.25·0.5; at cb 0.75 Screen(0.5, 0.5).
  overlay: [
    [0.25, 0.5, 0.25],
    [0.75, 0.5, 0.75],
  ],
  darken: [[0.25, 0.5, 0.25]],
  lighten: [[0.25, 0.5, 0.5]],
  'color-dodge': [
    [0, 1, 0],
    [0.25, 0.5, 0.5],
    [0.5, 1, 1],
    [0.75, 0.5, 1],
  ],
  'color-burn': [
    [1, 0, 1],
    [0.75, 0.5, 0.5],
    [0.5, 0, 0],
    [0.25, 0.5, 0],
  ],
  'hard-light': [
    [0.5, 0.25, 0.25],
    [0.5, 0.75, 0.75],
  ],
  // At cs 0.25: 0.5 − 0.5·0.5·0.5. At cs 0.75 over 0.64: 0.64 + 0.5·(0.8 − 0.64); over 0.25: D is 0.5.
  'soft-light': [
    [0.5, 0.25, 0.375],
    [0.64, 0.75, 0.72],
    [0.25, 0.75, 0.375],
  ],
  difference: [[0.25, 0.75, 0.5]],
  exclusion: [[0.25, 0.75, 0.625]],
};

describe('modes by hand', () => {
  it('are all there, and give what the formulas say', () => {
    expect(Object.keys(BY_HAND)).toHaveLength(BLEND_MODES.length - 1);
    for (const [mode, cases] of Object.entries(BY_HAND))
      for (const [backdrop, source, result] of cases)
        expect(BLEND_FORMULAS[mode as keyof typeof BY_HAND](backdrop, source), mode).toBeCloseTo(result, 12);
  });

  it('half-clear paint is mixed by what each covers alone and what both cover', () => {
    // Multiply of 0.8 at half on 0.5 at three quarters: 0.4·0.25 + 0.375·0.5 + 0.5·0.75·0.4 = 0.4375; alpha 0.875.
    const out = Float64Array.of(0.375, 0.375, 0.375, 0.75);
    blendOver('multiply', out, 0, [0.4, 0.4, 0.4, 0.5], 1, 1);
    expect([...out]).toEqual([0.4375, 0.4375, 0.4375, 0.875].map((v) => expect.closeTo(v, 12)));
    const sum = Float64Array.of(0.7, 0.2, 0, 0.8);
    blendOver('plus-lighter', sum, 0, [0.4, 0.4, 0.4, 0.5], 1, 1);
    expect([...sum]).toEqual([1, 0.6, 0.4, 1].map((v) => expect.closeTo(v, 12)));
  });
});

const SIZE = { widthPx: 90, heightPx: 70 };
const view = (background = CLEAR): RenderView => ({
  ...SIZE,
  frameToImage: { a: 1, b: 0, c: 0, d: 1, e: 0, f: 0 },
  background,
});
const MODES = BLEND_MODES.filter((mode) => mode !== 'paint');

/** Three pictures over one another: two of paint, and one laid over by a mode between or before them. */
function stacked(
  mode: BlendMode,
  part: Partial<Plane> = {},
): { scene: Scene; images: Map<string, ReturnType<typeof randomImage>> } {
  const images = new Map(
    [1, 2, 3].map((n) => [testArtId(n) as string, randomImage(60 + n, SIZE.widthPx, SIZE.heightPx)]),
  );
  const plane = (n: number, more: Partial<Plane>) =>
    testPlane(
      {
        id: testPlaneId(`p${n}`),
        content: { kind: 'still', art: { ...testArt(n, SIZE.widthPx, SIZE.heightPx) }, made: null },
        ...more,
      },
      SIZE.widthPx,
      SIZE.heightPx,
    );
  const scene = testScene(
    [plane(3, { depthSpx: -9, opacity: 0.5 }), plane(2, { mode, ...part }), plane(1, { depthSpx: 30 })],
    { frame: SIZE, homeDistanceSpx: 90 },
  );
  return { scene, images };
}

async function bothOf(
  scene: Scene,
  images: ReadonlyMap<string, ReturnType<typeof randomImage>>,
  background = CLEAR,
) {
  const renderer = await testRenderer();
  for (const [id, image] of images) renderer.addImage(id as never, image);
  const levels = new Map([...images].map(([id, image]) => [id, buildLevels(image)]));
  const layers = renderLayers(framePlan(scene, 1), view(background));
  return {
    kernel: renderer.render(layers, view(background)).data,
    oracle: renderOracle(layers, levels, SIZE.widthPx, SIZE.heightPx, background),
  };
}

function worst(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i]! - b[i]!));
  return most;
}

describe('the kernel', () => {
  it.each(MODES)(
    'lays over by %s as the oracle does, to 1/255: upright, turned, faded, blurred',
    async (mode) => {
      const turned = testPlane({ id: testPlaneId('x') }, SIZE.widthPx, SIZE.heightPx).transform;
      const ways: Partial<Plane>[] = [
        {},
        { opacity: 0.6 },
        { transform: { ...turned, rotationDeg: 23, scaleX: 0.8, scaleY: 0.8 } },
        { grade: { brightness: 0.7, saturation: 0.4, tint: '#ffcc88', tintStrength: 0.5, blurPx: 3 } },
      ];
      for (const part of ways) {
        const { scene, images } = stacked(mode, part);
        const { kernel, oracle } = await bothOf(scene, images);
        expect(worst(kernel, oracle)).toBeLessThanOrEqual(part.grade ? 2 : 1);
      }
    },
  );

  it.each(MODES)(
    '%s leaves what is behind clear paint as it is, and paint on nothing as it was painted',
    async (mode) => {
      const { scene, images } = stacked(mode);
      const [, over, under] = planesOf(scene).map(({ id }) => id);
      const only = (ids: readonly (string | undefined)[]) => ({
        ...scene,
        planes: Object.fromEntries(
          Object.entries(scene.planes).map(([id, plane]) => [id, { ...plane, hidden: !ids.includes(id) }]),
        ),
      });
      const alone = await bothOf(only([over]), images);
      const asPaint = await bothOf(setBlendMode(only([over]), new Set([over!]), 'paint'), images);
      expect(worst(alone.kernel, asPaint.kernel)).toBe(0);
      const hidden = only([over, under]);
      const clear = {
        ...hidden,
        planes: { ...hidden.planes, [over!]: { ...hidden.planes[over!]!, opacity: 1e-9 } },
      };
      const behind = await bothOf(clear as Scene, images);
      expect(worst(behind.kernel, (await bothOf(only([under]), images)).kernel)).toBe(0);
    },
  );

  it('a picture on a ground is the picture on none, on that ground', async () => {
    for (const mode of ['multiply', 'screen', 'difference'] as const) {
      const { scene, images } = stacked(mode);
      const onNone = (await bothOf(scene, images)).kernel;
      const onBlack = (await bothOf(scene, images, BLACK)).kernel;
      const laid = onNone.map((v, i) => (i % 4 === 3 ? 255 : v));
      expect(worst(onBlack, laid)).toBeLessThanOrEqual(1);
    }
  });
});

describe('light on light', () => {
  it('the filter lies over the whole picture: half the light of a shadow on a wall is half of what it looks like', async () => {
    const { scene, images } = stacked('multiply');
    const plain = (await bothOf(scene, images)).oracle;
    const { kernel, oracle } = await bothOf(setFilter(scene, { brightness: 0.5 }), images);
    expect(
      worst(
        oracle,
        plain.map((v, i) => (i % 4 === 3 ? v : v / 2)),
      ),
    ).toBeLessThan(1e-9);
    expect(worst(kernel, oracle)).toBeLessThanOrEqual(1);
  });

  it('air takes of the light of a lamp and of a shadow, and nothing is left of them behind all of it', async () => {
    for (const mode of ['multiply', 'screen'] as const) {
      const { scene, images } = stacked(mode, { depthSpx: 20 });
      const hazy = { ...scene, air: { colour: '#8899aa', visibilitySpx: 78.24 } };
      // T = exp(−3.912·20/78.24) = 1/e: as a plane of that opacity in clear air, over the same hazed picture.
      const layers = renderLayers(framePlan(hazy, 1), view());
      const [, lamp] = layers;
      expect(lamp).toMatchObject({ mode, opacity: expect.closeTo(Math.exp(-1), 9), look: null });
      const thick = { ...scene, air: { colour: '#8899aa', visibilitySpx: 0.01 * 1000 } };
      const { kernel, oracle } = await bothOf(thick, images);
      expect(worst(kernel, oracle)).toBeLessThanOrEqual(1.5);
    }
  });
});

describe('a soft edge', () => {
  const art = (n: number) => testArtId(n);
  /** A plane with a disc of paint on clear ground, and what its distances are. */
  function disc(part: Partial<Plane> = {}) {
    const image = raster(80, 60, 'straight');
    for (let y = 0; y < 60; y++)
      for (let x = 0; x < 80; x++)
        if (Math.hypot(x + 0.5 - 40, y + 0.5 - 30) < 24)
          image.data.set([220, 120, 40, 255], (y * 80 + x) * 4);
    const plane = testPlane(
      {
        id: testPlaneId('disc'),
        content: { kind: 'still', art: { ...testArt(7, 80, 60) }, made: null },
        grade: { ...PLAIN_GRADE, softEdgePx: 10 },
        ...part,
      },
      80,
      60,
    );
    return { image, scene: testScene([plane], { frame: SIZE, homeDistanceSpx: 90 }) };
  }

  async function drawn(scene: Scene, image: ReturnType<typeof randomImage>, repeat: Repeat = 'none') {
    const renderer = await testRenderer();
    const edge = edgeOfArt(art(7), repeat);
    const found = artOfEdge(edge);
    const distances = edgeDistances(image, found!.endless);
    renderer.addImage(art(7), image);
    renderer.addImage(edge, distances);
    const levels = new Map([
      [art(7) as string, buildLevels(image)],
      [edge as string, buildLevels(distances)],
    ]);
    const layers = renderLayers(framePlan(scene, 1), view());
    return {
      kernel: renderer.render(layers, view()).data,
      oracle: renderOracle(layers, levels, SIZE.widthPx, SIZE.heightPx, CLEAR),
    };
  }

  it('is a ramp of the distance to the edge: along the middle of a disc, to a level', async () => {
    const { image, scene } = disc();
    const { kernel, oracle } = await drawn(scene, image);
    expect(worst(kernel, oracle)).toBeLessThanOrEqual(1);
    // The row through the middle of the disc; its art begins 5 px in.
    for (let x = 16; x < 64; x++) {
      const ends = Math.min(x + 0.5 - 16, 64 - x - 0.5);
      const alpha = kernel[(35 * SIZE.widthPx + x + 5) * 4 + 3]!;
      expect(Math.abs(alpha - 255 * softEdgeAt(ends, 10))).toBeLessThanOrEqual(6);
    }
  });

  it('is the oracle’s when turned, squashed, reduced, blurred, tiled and faded', async () => {
    const still = testPlane({ id: testPlaneId('x') }, 80, 60).transform;
    const ways: [Partial<Plane>, number][] = [
      [{ transform: { ...still, rotationDeg: 31, scaleX: 0.9, scaleY: 1.3 } }, 1],
      [{ transform: { ...still, scaleX: 0.4, scaleY: 0.4 } }, 1],
      [{ grade: { ...PLAIN_GRADE, softEdgePx: 6, blurPx: 4 } }, 2],
      [{ repeat: 'across', opacity: 0.5 }, 1],
      [{ mode: 'multiply' }, 1],
    ];
    for (const [part, within] of ways) {
      const { image, scene } = disc(part);
      const { kernel, oracle } = await drawn(scene, image, part.repeat);
      expect(worst(kernel, oracle)).toBeLessThanOrEqual(within);
    }
  });

  it('is asked for beside the art where a plane has one, now or at any key', () => {
    const { scene } = disc();
    const [plane] = planesOf(scene);
    expect(artsDrawn([plane!])).toEqual([art(7), edgeOfArt(art(7), 'none')]);
    expect(artsDrawn([{ ...plane!, grade: null }])).toEqual([art(7)]);
    expect(artOfEdge(art(7))).toBeNull();
    expect(artOfEdge(`${art(7)}.edge-sideways`)).toBeNull();
  });
});
