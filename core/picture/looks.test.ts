// Over 400 lines: every look is tried on the same staged planes and beside the same oracle, which are set up once here.
import { describe, expect, it } from 'vitest';
import { compose, IDENTITY, rotation, scaling, translation } from '../geometry/index.ts';
import { type LevelRaster, type Raster, raster } from '../image/index.ts';
import { buildLevels } from '../kernel/memory/index.ts';
import { type ColourMatrix, srgbOfHex } from '../paint/index.ts';
import type { Plane, Scene } from '../scene/index.ts';
import { planesOf, withEachPlane, withPlaneList } from '../scene/records/index.ts';
import { newPlane } from '../staging/content/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import {
  randomImage,
  testArt,
  testArtId,
  testLayer,
  testPlane,
  testPlaneId,
  testRenderer,
  testScene,
  withCutEdges,
} from '../testing/index.ts';
import { seededRandom } from '../units/index.ts';
import { applyLook, type LayerLook, layerLook } from './layer-look.ts';
import { renderLayers } from './layers.ts';
import { blurredByDisc, blurredByGauss, renderOracle } from './oracle.ts';
import { BLACK, CLEAR, type RenderView } from './view.ts';

const VIEW: RenderView = { widthPx: 160, heightPx: 120, frameToImage: IDENTITY, background: CLEAR };

const worst = (data: ArrayLike<number>, oracle: ArrayLike<number>): number => {
  let most = 0;
  for (let i = 0; i < oracle.length; i++) most = Math.max(most, Math.abs(data[i]! - oracle[i]!));
  return most;
};

/** Planes of random images with whatever is said of them, a scene around them, and the images. */
function staged(seed: number, looks: readonly Partial<Plane>[], part: Partial<Scene> = {}) {
  const random = seededRandom(seed);
  const images = new Map<string, Raster<'straight'>>();
  const planes = looks.map((look, i) => {
    const [w, h] = [40 + Math.floor(random() * 200), 40 + Math.floor(random() * 150)];
    images.set(testArtId(i + 1), randomImage(seed * 17 + i, w, h));
    const content = { kind: 'still', art: testArt(i + 1, w, h), made: null } as const;
    const plane = newPlane(testPlaneId(`p${i}`), `p${i}`, content);
    const transform = {
      ...plane.transform,
      xSpx: (random() - 0.5) * 100,
      ySpx: (random() - 0.5) * 80,
      scaleX: 0.5 + random() * 1.5,
      scaleY: (0.5 + random() * 1.5) * (random() < 0.5 ? -1 : 1),
      rotationDeg: random() < 0.5 ? 0 : random() * 360,
    };
    return { ...plane, transform, depthSpx: 40 * i, opacity: random() < 0.5 ? 1 : random(), ...look };
  });
  const scene = testScene(planes, { frame: { widthPx: 160, heightPx: 120 }, homeDistanceSpx: 160, ...part });
  return { scene, images };
}

async function bothOf({ scene, images }: ReturnType<typeof staged>, view = VIEW) {
  const renderer = await testRenderer();
  const levels = new Map<string, LevelRaster[]>();
  for (const [id, image] of images) {
    renderer.addImage(id, image);
    levels.set(id, buildLevels(image));
  }
  const layers = renderLayers(framePlan(scene, 1), view);
  const oracle = renderOracle(layers, levels, view.widthPx, view.heightPx, view.background);
  return { drawn: renderer.render(layers, view).data, oracle, layers, renderer };
}

const hex = (random: () => number) =>
  `#${Math.floor(random() * 0xffffff)
    .toString(16)
    .padStart(6, '0')}`;

describe('colour in the kernel', () => {
  it.each(Array.from({ length: 16 }, (_, i) => i + 1))(
    'grades, hazes and darkens within 1/255 of the oracle (seed %i)',
    async (seed) => {
      const random = seededRandom(seed * 7);
      const grade = () => ({
        brightness: random() * 2,
        saturation: random() * 2.5,
        tint: hex(random),
        tintStrength: random(),
        blurPx: 0,
      });
      const looks = Array.from({ length: 4 }, () => ({ grade: random() < 0.7 ? grade() : null }));
      const { drawn, oracle, layers } = await bothOf(
        staged(seed, looks, {
          air: random() < 0.7 ? { colour: hex(random), visibilitySpx: 20 + random() * 400 } : null,
          filter:
            random() < 0.7
              ? {
                  brightness: 0.5 + random(),
                  tint: hex(random),
                  tintStrength: random(),
                  glow: 0,
                  vignette: random(),
                }
              : null,
        }),
        seed % 2 ? VIEW : { ...VIEW, background: BLACK },
      );
      expect(layers.some((layer) => layer.kind !== 'group' && layer.look !== null)).toBe(true);
      // Ordered dithering by itself is up to 15/16 of a level off, where rounding is half a one.
      expect(worst(drawn, oracle)).toBeLessThanOrEqual(15 / 16 + 0.3);
    },
  );

  it('leaves what rides on the camera out of air and filter, and what is on the datum out of the air', () => {
    const look = (mount: Plane['mount'], depthSpx: number) =>
      framePlan(
        testScene([testPlane({ id: testPlaneId('a'), mount, depthSpx })], {
          air: { colour: '#8090a0', visibilitySpx: 1000 },
          filter: { brightness: 0.5, tint: '#ffffff', tintStrength: 0, glow: 0.5, vignette: 0.5 },
        }),
        1,
      ).planes[0]!.look;
    expect(look({ on: 'camera' }, 500)).toEqual({ matrix: null, air: null, filtered: false });
    expect(look({ on: 'stage' }, 0)).toMatchObject({ air: null, filtered: true });
    const { air, matrix } = look({ on: 'stage' }, 1000);
    // V is where 2 % of the contrast is left: exp(−3.912).
    expect(air?.transmission).toBeCloseTo(0.02, 4);
    expect([air?.gain, matrix]).toEqual([[0.5, 0.5, 0.5], null]);
  });

  it('comes through the home distance without a pop: grade, clamp, air, filter, clamp, in clear air as well', () => {
    const grade = { brightness: 1.4, saturation: 1.2, tint: '#ffffff', tintStrength: 0, blurPx: 0 };
    const seen = (depthSpx: number) => {
      const scene = testScene([testPlane({ id: testPlaneId('a'), depthSpx, grade })], {
        air: { colour: '#8090a0', visibilitySpx: 1000 },
        filter: { brightness: 0.7, tint: '#ffffff', tintStrength: 0, glow: 0, vignette: 0 },
      });
      const colour = Float64Array.from([210 / 255, 231 / 255, 252 / 255, 1]);
      applyLook(layerLook(framePlan(scene, 1).planes[0]!.look, null)!, colour, 0);
      return colour;
    };
    const [on, behind] = [seen(0), seen(1e-6)];
    for (let c = 0; c < 3; c++) expect(on[c]).toBeCloseTo(behind[c]!, 7);
    // All three are over white after the grade, and white times 0.7 after the filter.
    expect([...on.slice(0, 3)]).toEqual([0.7, 0.7, 0.7].map((v) => expect.closeTo(v, 9)));
  });

  it('gives wide pixels to gradients of air: more levels than bytes have', async () => {
    const renderer = await testRenderer();
    const ramp = raster(256, 4, 'straight');
    for (let i = 0; i < 256 * 4; i++) ramp.data.set([i % 256, 128, 128, 255], i * 4);
    renderer.addImage(testArtId(1), ramp);
    const plane = { ...testPlane({ id: testPlaneId('a') }, 256, 4), depthSpx: 400 };
    const far = testScene([{ ...plane, transform: { ...plane.transform, scaleX: 8, scaleY: 80 } }], {
      air: { colour: '#606870', visibilitySpx: 3000 },
    });
    const view = { widthPx: 960, heightPx: 8, frameToImage: translation(-480, -536), background: CLEAR };
    const { data } = renderer.renderAs(renderLayers(framePlan(far, 1), view), view, 'straight16');
    const red = Array.from({ length: 960 }, (_, x) => data[x * 4]!);
    expect(new Set(red).size).toBeGreaterThan(300);
    const steps = red.slice(1).map((v, i) => v - red[i]!);
    // Every step is less than half of one of 8 bit.
    expect(Math.max(...steps.map(Math.abs))).toBeLessThan(257 / 2 + 40);
    expect(new Set(Array.from({ length: 960 }, (_, x) => data[x * 4 + 3]))).toEqual(new Set([65_535]));
  });

  it('rounds 16 bits by the same pattern: whole levels as they are, others up or down beside each other', async () => {
    const renderer = await testRenderer();
    const stops = [
      { at: 0, colour: '#404040', opacity: 1 },
      { at: 1, colour: '#484848', opacity: 1 },
    ];
    const paint = { kind: 'linear', angleDeg: 90, space: 'srgb', stops } as const;
    const card = {
      ...newPlane(testPlaneId('card'), 'Card', { kind: 'card', widthPx: 640, heightPx: 16, paint }),
    };
    const scene = testScene([card], { frame: { widthPx: 640, heightPx: 16 } });
    const view = { widthPx: 640, heightPx: 16, frameToImage: IDENTITY, background: CLEAR };
    const { data } = renderer.renderAs(renderLayers(framePlan(scene, 1), view), view, 'straight16');
    const level = (x: number, y: number) => data[(y * 640 + x) * 4]!;
    let patterned = 0;
    for (let x = 0; x < 640; x++) {
      const column = Array.from({ length: 16 }, (_, y) => level(x, y));
      const ideal = 257 * (64 + (8 * (x + 0.5)) / 640);
      // A lane is two levels of 16 bit.
      for (const value of column) expect(Math.abs(value - ideal)).toBeLessThanOrEqual(2.6);
      if (new Set(column).size > 1) patterned += 1;
    }
    expect(patterned).toBeGreaterThan(100);
  });
});

describe('straight pixels', () => {
  it('keep an opaque ground opaque under planes of every alpha', async () => {
    const { scene, images } = staged(21, [{ opacity: 0.3 }, { opacity: 0.7 }, {}, { opacity: 0.9 }, {}]);
    const renderer = await testRenderer();
    for (const [id, image] of images) renderer.addImage(id, image);
    const view = { ...VIEW, background: BLACK };
    const layers = renderLayers(framePlan(scene, 1), view);
    const alphas = (data: ArrayLike<number>) => new Set(Array.from(data).filter((_, i) => i % 4 === 3));
    expect(alphas(renderer.renderAs(layers, view, 'straight8').data)).toEqual(new Set([255]));
    expect(alphas(renderer.renderAs(layers, view, 'straight16').data)).toEqual(new Set([65_535]));
  });

  it('of art that one sees through are the art’s own, at whole px', async () => {
    const renderer = await testRenderer();
    const image = randomImage(8, VIEW.widthPx, VIEW.heightPx);
    renderer.addImage(testArtId(1), image);
    const plane = testPlane({ id: testPlaneId('a') }, VIEW.widthPx, VIEW.heightPx);
    const plan = framePlan(testScene([plane], { frame: { widthPx: 160, heightPx: 120 } }), 1);
    const layers = renderLayers(plan, VIEW);
    const bytes = renderer.renderAs(layers, VIEW, 'straight8').data;
    const wide = renderer.renderAs(layers, VIEW, 'straight16').data;
    const source = image.data;
    // One comparison of all: an assertion for each px took longer than drawing them.
    const wrong: number[] = [];
    for (let i = 0; i < bytes.length; i += 4) {
      const alpha = source[i + 3]!;
      if (bytes[i + 3] !== alpha || wide[i + 3] !== alpha * 257) wrong.push(i);
      for (let c = 0; c < 3; c++) {
        // A clear px has no colour; of the faintest there are 128 lanes to an alpha of 1.
        const straight = alpha === 0 ? 0 : source[i + c]!;
        const [byteOff, wideOff] = [
          Math.abs(bytes[i + c]! - straight),
          Math.abs(wide[i + c]! - straight * 257),
        ];
        if (byteOff > (alpha < 3 ? 1 : 0) || wideOff > 1 + 257 / Math.max(1, alpha)) wrong.push(i + c);
      }
    }
    expect(wrong).toEqual([]);
  });
});

describe('many sheets of faint paint', () => {
  it.each([
    [20, 30],
    [200, 3],
  ])('%i of alpha %i keep their colour', async (count, alpha) => {
    const renderer = await testRenderer();
    const sheet = raster(40, 30, 'straight');
    for (let i = 0; i < sheet.data.length; i += 4) sheet.data.set([201, 94, 23, alpha], i);
    renderer.addImage(testArtId(1), sheet);
    const planes = Array.from({ length: count }, (_, i) => ({
      ...testPlane({ id: testPlaneId(`p${i}`) }, 40, 30),
      content: { kind: 'still', art: testArt(1, 40, 30), made: null } as const,
    }));
    const frame = { widthPx: 40, heightPx: 30 };
    const view = { ...frame, frameToImage: IDENTITY, background: CLEAR };
    const { data } = renderer.renderAs(
      renderLayers(framePlan(testScene(planes, { frame }), 1), view),
      view,
      'straight8',
    );
    const at = (15 * 40 + 20) * 4;
    const covered = 1 - (1 - alpha / 255) ** count;
    for (const [c, value] of [201, 94, 23].entries())
      expect(Math.abs(data[at + c]! - value)).toBeLessThan(1.01);
    expect(Math.abs(data[at + 3]! - 255 * covered)).toBeLessThan(1.5);
  });
});

describe('blur in the kernel', () => {
  const soft = (blurPx: number) => ({
    grade: { brightness: 1, saturation: 1, tint: '#ffffff', tintStrength: 0, blurPx },
  });

  it.each([
    [1, 1.5],
    [2, 5],
    [3, 14],
    [4, 31],
    [5, 60],
  ] as const)('is within 2/255 of a Gaussian of the sharp picture (seed %i, %f px)', async (seed, blurPx) => {
    const margin = 120;
    const wide = {
      ...VIEW,
      widthPx: 160 + 2 * margin,
      heightPx: 120 + 2 * margin,
      frameToImage: translation(margin, margin),
    };
    // Art that is not reduced: what the sharp picture itself skips between its px is not the blur's fault.
    const staging = staged(seed, [{ opacity: 1 }]);
    const grown = ({ transform: t, ...plane }: Plane): Plane => ({
      ...plane,
      transform: {
        ...t,
        scaleX: Math.max(1, t.scaleX),
        scaleY: Math.sign(t.scaleY) * Math.max(1, Math.abs(t.scaleY)),
      },
    });
    // Nothing is read on beyond its sides either.
    const ends = { left: false, right: false, top: false, bottom: false };
    const whole = {
      ...staging,
      scene: withPlaneList(
        staging.scene,
        planesOf(staging.scene).map((plane) => withCutEdges(grown(plane), ends)),
      ),
    };
    const sharp = await bothOf(whole, wide);
    const reference = blurredByGauss(sharp.oracle, wide.widthPx, wide.heightPx, blurPx / 4);
    const softened = withEachPlane(whole.scene, (plane) => ({ ...plane, ...soft(blurPx) }));
    const blurred = await bothOf({ ...whole, scene: softened });
    expect(blurred.layers).toMatchObject([{ kind: 'group' }]);
    let most = 0;
    for (let y = 0; y < 120; y++)
      for (let i = 0; i < 160 * 4; i++)
        most = Math.max(
          most,
          Math.abs(blurred.drawn[y * 640 + i]! - reference[((y + margin) * wide.widthPx + margin) * 4 + i]!),
        );
    expect(most).toBeLessThanOrEqual(2);
  });

  it.each([
    [6, 3, 2],
    [7, 9, 2],
    [8, 22, 2],
    [9, 32, 2],
    // Wider ones are made in a reduced picture.
    [9, 40, 2],
    [12, 60, 2],
    [9, 100, 2],
  ] as const)(
    'is near a disc of the sharp picture (seed %i, %f px, %i/255)',
    async (seed, diameter, within) => {
      // The iris is set so that the plane's disc has the diameter that is asked for: b = iris·f·|1/s − 1/d|.
      const part = { depthSpx: 160, opacity: 1 };
      const iris = diameter / (160 * Math.abs(1 / 160 - 1 / 320));
      const base = testScene().camera;
      const margin = 60;
      const wide = {
        ...VIEW,
        widthPx: 160 + 2 * margin,
        heightPx: 120 + 2 * margin,
        frameToImage: translation(margin, margin),
      };
      const sharp = await bothOf(staged(seed, [part]), wide);
      const reference = blurredByDisc(sharp.oracle, wide.widthPx, wide.heightPx, diameter / 2, margin);
      const lens = staged(seed, [part], { camera: { ...base, iris: { value: iris, keys: {} } } });
      expect(framePlan(lens.scene, 1).planes[0]!.defocusPx).toBeCloseTo(diameter, 9);
      const blurred = await bothOf(lens);
      let most = 0;
      for (let y = 0; y < 120; y++)
        for (let i = 0; i < 160 * 4; i++)
          most = Math.max(
            most,
            Math.abs(
              blurred.drawn[y * 640 + i]! - reference[((y + margin) * wide.widthPx + margin) * 4 + i]!,
            ),
          );
      expect(most).toBeLessThanOrEqual(within);
    },
  );

  it('follows the oracle through groups of groups: a glow over blurred, graded planes', async () => {
    for (const seed of [11, 12, 13]) {
      const { drawn, oracle, layers } = await bothOf(
        staged(seed, [{}, soft(9), { passing: { way: 'defocus', overSpx: 4000 } }], {
          filter: { brightness: 1.1, tint: '#ffd0a0', tintStrength: 0.4, glow: 0.6, vignette: 0.3 },
        }),
      );
      const glow = layers.find((layer) => layer.kind === 'group' && layer.mode === 'screen');
      expect(glow).toMatchObject({
        inner: expect.arrayContaining([expect.objectContaining({ kind: 'group' })]),
      });
      expect(worst(drawn, oracle)).toBeLessThanOrEqual(2.1);
    }
  });

  it('keeps an even colour even, and no colour above its alpha', async () => {
    const renderer = await testRenderer();
    const even = raster(600, 600, 'straight');
    for (let i = 0; i < even.data.length; i += 4) even.data.set([200, 100, 50, 255], i);
    renderer.addImage(testArtId(1), even);
    const plane = { ...testPlane({ id: testPlaneId('a'), ...soft(40) }, 600, 600) };
    const plan = framePlan(testScene([plane], { frame: { widthPx: 160, heightPx: 120 } }), 1);
    const { data } = renderer.render(renderLayers(plan, VIEW), VIEW);
    for (let i = 0; i < data.length; i += 4)
      expect([...data.subarray(i, i + 4)]).toEqual([200, 100, 50, 255]);
  });

  it('draws overlapping shapes of a half clear plane as one picture', async () => {
    const square = (id: string, x: number) => ({
      id,
      path: `M${x} 10 L${x + 60} 10 L${x + 60} 90 L${x} 90 Z`,
      paint: { kind: 'solid', colour: '#ff0000', opacity: 1 } as const,
    });
    const shapes = [square('a', 20), square('b', 50)];
    const content = { kind: 'shapes', widthPx: 160, heightPx: 120, shapes } as const;
    const plane = { ...newPlane(testPlaneId('a'), 'a', { ...content, shapes: [...shapes] }), opacity: 0.5 };
    const { drawn } = await bothOf({
      scene: testScene([plane], { frame: { widthPx: 160, heightPx: 120 } }),
      images: new Map(),
    });
    const at = (x: number) => [...drawn.subarray((50 * 160 + x) * 4, (50 * 160 + x) * 4 + 4)];
    expect([at(30), at(65), at(100)]).toEqual([
      [128, 0, 0, 128],
      [128, 0, 0, 128],
      [128, 0, 0, 128],
    ]);
  });
});

describe('where one level gives way to the next', () => {
  const picture = randomImage(21, 304, 208);
  const draw = async (scale: number) => {
    const renderer = await testRenderer();
    renderer.addImage(testArtId(1), picture);
    const plane = testPlane({ id: testPlaneId('a') }, 304, 208);
    const scene = testScene([{ ...plane, transform: { ...plane.transform, scaleX: scale, scaleY: scale } }], {
      frame: { widthPx: 160, heightPx: 120 },
    });
    const layers = renderLayers(framePlan(scene, 1), VIEW);
    return { layers, data: renderer.render(layers, VIEW).data };
  };

  it('nothing jumps: a millionth of a size changes nothing that is seen', async () => {
    for (const edge of [0.5, 0.25, 0.615]) {
      const [below, above] = [await draw(edge * (1 - 1e-6)), await draw(edge * (1 + 1e-6))];
      expect(worst(below.data, above.data)).toBeLessThanOrEqual(1);
    }
  });
});

describe('looks, worked by hand', () => {
  it('a matrix that swaps red and blue swaps them under any alpha', async () => {
    const swap: ColourMatrix = [0, 0, 1, 0, 1, 0, 1, 0, 0];
    const look: LayerLook = { matrix: swap, curve: null, vignette: null };
    const renderer = await testRenderer();
    const image = randomImage(30, 50, 40);
    renderer.addImage(testArtId(1), image);
    const layer = testLayer(testArtId(1), { widthPx: 50, heightPx: 40 }, { look });
    const view = { ...VIEW, widthPx: 50, heightPx: 40 };
    const swapped = renderer.render([layer], view).data;
    const plain = renderer.render([{ ...layer, look: null }], view).data;
    for (let i = 0; i < plain.length; i += 4)
      expect([...swapped.subarray(i, i + 4)]).toEqual([plain[i + 2], plain[i + 1], plain[i], plain[i + 3]]);
  });

  it('turned, tiled layers are changed like any other', async () => {
    const renderer = await testRenderer();
    const image = randomImage(31, 64, 64);
    renderer.addImage(testArtId(1), image);
    const levels = new Map([[testArtId(1) as string, buildLevels(image)]]);
    const look: LayerLook = {
      matrix: [0.5, 0.2, 0, 0, 0.7, 0.1, 0.1, 0, 0.8],
      curve: { kind: 'air', transmission: 0.6, colour: srgbOfHex('#405060'), gain: [1, 0.9, 0.8] },
      vignette: { strength: 0.7, centreX: 80, centreY: 60, halfDiagonalPx: 100 },
    };
    const size = { widthPx: 64, heightPx: 64 };
    const layer = testLayer(testArtId(1), size, {
      imageToLevel: compose(rotation(13), scaling(0.8)),
      blend: {
        level: 1,
        imageToLevel: compose(scaling(0.5), compose(rotation(13), scaling(0.8))),
        weight: 0.4,
      },
      look,
      opacity: 0.75,
      repeat: 'both',
    });
    const oracle = renderOracle([layer], levels, VIEW.widthPx, VIEW.heightPx, CLEAR);
    expect(worst(renderer.render([layer], VIEW).data, oracle)).toBeLessThanOrEqual(1);
  });
});
