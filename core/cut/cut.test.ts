import { describe, expect, it } from 'vitest';
import { mergeImages } from '../art/index.ts';
import { translation } from '../geometry/index.ts';
import { type Raster, raster } from '../image/index.ts';
import { CLEAR, renderLayers } from '../picture/index.ts';
import { type CutRecipe, cutRecipeSchema } from '../scene/index.ts';
import { framePlan } from '../staging/frame/index.ts';
import { randomImage, testArt, testPlane, testPlaneId, testRenderer, testScene } from '../testing/index.ts';
import { applyCopies } from './copy-brush.ts';
import { cutImage, selectionMask } from './cut.ts';
import { fillHole } from './fill.ts';
import { colourMask, feather, maskBox, outlineMask } from './mask.ts';
import { mappedRecipe, outlineChange } from './next-version.ts';

const flat = (
  width: number,
  height: number,
  at: (x: number, y: number) => readonly number[],
): Raster<'straight'> => {
  const image = raster(width, height, 'straight');
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) image.data.set(at(x, y), (y * width + x) * 4);
  return image;
};
const recipe = (part: Partial<CutRecipe>): CutRecipe =>
  cutRecipeSchema.parse({ steps: [], featherPx: 0, fill: false, copies: [], ...part });
const box = (x0: number, y0: number, x1: number, y1: number): [number, number][] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

type Spot = [number, number];

describe('choosing by outline', () => {
  it('covers each pixel by its exact area', () => {
    const mask = outlineMask(box(2.5, 1, 6, 3.25), raster(8, 5, 'straight'));
    expect([...mask.data.subarray(8, 16)]).toEqual([0, 0, 128, 255, 255, 255, 0, 0]);
    expect([...mask.data.subarray(24, 32)]).toEqual([0, 0, 32, 64, 64, 64, 0, 0]);
    // A right triangle of 40 × 30 covers 600 px, whichever way round it is drawn.
    const triangle: [number, number][] = [
      [5, 5],
      [45, 5],
      [5, 35],
    ];
    for (const points of [triangle, triangle.toReversed()]) {
      const area = outlineMask(points, raster(60, 60, 'straight')).data.reduce((sum, v) => sum + v, 0) / 255;
      expect(area).toBeCloseTo(600, 0);
    }
  });

  it('is on every px the area of the outline clipped to it, outside of the image too', () => {
    // Sutherland & Hodgman 1974, then the shoelace formula.
    const clipped = (points: Spot[], axis: 0 | 1, at: number, keep: 1 | -1): Spot[] =>
      points.flatMap((p, i) => {
        const q = points[(i + 1) % points.length]!;
        const [a, b] = [keep * (p[axis] - at), keep * (q[axis] - at)];
        const t = a / (a - b);
        const met: Spot[] = a * b < 0 ? [[p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t]] : [];
        return a >= 0 ? [p, ...met] : met;
      });
    const areaOf = (points: Spot[]) =>
      Math.abs(
        points.reduce((sum, [x, y], i) => {
          const [u, v] = points[(i + 1) % points.length]!;
          return sum + (x * v - u * y) / 2;
        }, 0),
      );
    const outlines: Spot[][] = [
      [
        [1.2, 2.1],
        [37.7, 5.3],
        [20.4, 30.9],
      ],
      [
        [-30.5, 12.7],
        [55.1, -8.2],
        [70.3, 25.6],
        [3.3, 60.2],
      ],
    ];
    for (const points of outlines) {
      const mask = outlineMask(points, raster(40, 33, 'straight'));
      for (const [i, value] of mask.data.entries()) {
        const [x, y] = [i % 40, Math.floor(i / 40)];
        const inColumn = clipped(clipped(points, 0, x, 1), 0, x + 1, -1);
        const area = areaOf(clipped(clipped(inColumn, 1, y, 1), 1, y + 1, -1));
        expect(Math.abs(value - 255 * area)).toBeLessThanOrEqual(0.5 + 1e-9);
      }
    }
  });

  it('adds, takes away and stays within the image', () => {
    const image = raster(10, 10, 'straight');
    const steps = [
      { kind: 'outline' as const, mode: 'add' as const, points: box(-5, -5, 8, 8) },
      { kind: 'outline' as const, mode: 'subtract' as const, points: box(2, 2, 20, 20) },
    ];
    const mask = selectionMask(image, steps, 0);
    expect(mask.data.reduce((sum, v) => sum + v, 0) / 255).toBe(8 * 8 - 6 * 6);
    expect(maskBox(mask)).toEqual({ x0: 0, y0: 0, x1: 8, y1: 8 });
  });
});

describe('choosing by colour', () => {
  /** Pixel art: a red ring, a red dot that touches it only by a corner, a nearly red one apart. */
  const art = flat(9, 7, (x, y) => {
    const ring = x >= 1 && x <= 4 && y >= 1 && y <= 4 && !(x >= 2 && x <= 3 && y >= 2 && y <= 3);
    if (ring || (x === 5 && y === 5)) return [200, 0, 0, 255];
    if (x === 7 && y === 1) return [196, 0, 0, 255];
    return [0, 0, 90, 255];
  });
  const count = (choice: Parameters<typeof colourMask>[1]) =>
    colourMask(art, choice).data.reduce((sum, v) => sum + v, 0) / 255;

  it('is exact for pixel art: what hangs together by its sides, or all of it', () => {
    expect(count({ at: [1, 1], tolerance: 0, contiguous: true })).toBe(12);
    expect(count({ at: [1, 1], tolerance: 0, contiguous: false })).toBe(13);
    expect(count({ at: [1, 1], tolerance: 4, contiguous: false })).toBe(14);
    expect(count({ at: [2, 2], tolerance: 0, contiguous: true })).toBe(4);
    expect(count({ at: [-3, 2], tolerance: 0, contiguous: true })).toBe(0);
  });

  it('agrees with a plain flood fill on a maze', () => {
    const maze = flat(41, 33, (x, y) =>
      (x * 7 + y * 13 + ((x * y) % 5)) % 3 === 0 ? [0, 0, 0, 255] : [255, 255, 255, 255],
    );
    const wanted = new Set<number>();
    const open = [20 * 41 + 20];
    const same = (i: number) => maze.data[i * 4] === maze.data[open0 * 4];
    const open0 = open[0] as number;
    while (open.length > 0) {
      const i = open.pop() as number;
      if (wanted.has(i) || !same(i)) continue;
      wanted.add(i);
      const [x, y] = [i % 41, Math.floor(i / 41)];
      if (x > 0) open.push(i - 1);
      if (x < 40) open.push(i + 1);
      if (y > 0) open.push(i - 41);
      if (y < 32) open.push(i + 41);
    }
    const mask = colourMask(maze, { at: [20, 20], tolerance: 0, contiguous: true });
    expect([...mask.data.keys()].filter((i) => mask.data[i] === 255)).toEqual(
      [...wanted].sort((p, q) => p - q),
    );
  });
});

describe('a soft border', () => {
  it('keeps the sum and the middle, and reaches about its width', () => {
    const hard = outlineMask(box(30, 0, 70, 100), raster(100, 100, 'straight'));
    const soft = feather(hard, 9);
    const row = soft.data.subarray(5000, 5100);
    expect(Math.abs(row.reduce((s, v) => s + v, 0) - 40 * 255)).toBeLessThan(100);
    expect(row[50]).toBe(255);
    expect(Math.abs((row[30] as number) - 128)).toBeLessThan(12);
    expect([row[10], (row[24] as number) > 0]).toEqual([0, true]);
  });
});

describe('a cut', () => {
  const painting = randomImage(9, 120, 90);
  const steps = [
    { kind: 'outline' as const, mode: 'add' as const, points: box(20.3, 10.7, 77, 61) },
    { kind: 'outline' as const, mode: 'subtract' as const, points: box(40, 30, 50, 40) },
  ];

  it.each([0, 6])('laid together again is the painting, with a soft border of %i px too', (featherPx) => {
    const opaque = flat(120, 90, (x, y) => [
      ...painting.data.subarray((y * 120 + x) * 4, (y * 120 + x) * 4 + 3),
      255,
    ]);
    const pieces = cutImage(opaque, recipe({ steps, featherPx }));
    if (!pieces) throw new Error('nothing was cut');
    const [xPx, yPx] = pieces.takenAt;
    const together = mergeImages(
      [
        { image: pieces.left, xPx: 0, yPx: 0, opacity: 1 },
        { image: pieces.taken, xPx, yPx, opacity: 1 },
      ],
      { x0: 0, y0: 0, x1: 120, y1: 90 },
    );
    expect(together.data).toEqual(opaque.data);
  });

  it.each([
    ['opaque paint', 255],
    ['paint that one sees through', 140],
  ])('with a soft border and a filling is the painting again within 1/255: %s', (_, alpha) => {
    const whole = flat(120, 90, (x, y) => {
      const [r = 0, g = 0, b = 0] = painting.data.subarray((y * 120 + x) * 4, (y * 120 + x) * 4 + 3);
      return [r, g, b, x < 60 ? 255 : alpha];
    });
    for (const featherPx of [0, 3, 12]) {
      const pieces = cutImage(whole, recipe({ steps, featherPx, fill: true }))!;
      const [xPx, yPx] = pieces.takenAt;
      let worst = 0;
      for (let y = 0; y < 90; y++)
        for (let x = 0; x < 120; x++) {
          const [tx, ty] = [x - xPx, y - yPx];
          const inside = tx >= 0 && ty >= 0 && tx < pieces.taken.widthPx && ty < pieces.taken.heightPx;
          const t = inside ? (ty * pieces.taken.widthPx + tx) * 4 : -1;
          const l = (y * 120 + x) * 4;
          const a = t < 0 ? 0 : (pieces.taken.data[t + 3] as number) / 255;
          const b = (pieces.left.data[l + 3] as number) / 255;
          const over = a + b * (1 - a);
          for (let c = 0; c < 4; c++) {
            const value =
              c === 3
                ? 255 * over
                : a * (t < 0 ? 0 : (pieces.taken.data[t + c] as number)) +
                  b * (1 - a) * (pieces.left.data[l + c] as number);
            // Premultiplied on both sides: paint that is not seen has no colour.
            const wanted =
              c === 3
                ? (whole.data[l + 3] as number)
                : ((whole.data[l + c] as number) * (whole.data[l + 3] as number)) / 255;
            worst = Math.max(worst, Math.abs(value - wanted));
          }
        }
      expect(worst).toBeLessThanOrEqual(1);
    }
  });

  it('leaves the filling alone behind the piece, with no rim of what was taken', () => {
    // A dark post before a light wall: the wall goes on where it stood, up to its soft border.
    const post = flat(160, 120, (x) => (x >= 70 && x < 90 ? [40, 30, 20, 255] : [200, 190, 180, 255]));
    const cut = cutImage(
      post,
      recipe({
        steps: [{ kind: 'outline', mode: 'add', points: box(66, 0, 94, 120) }],
        featherPx: 4,
        fill: true,
      }),
    )!;
    for (let x = 50; x < 110; x++) expect(cut.left.data[(60 * 160 + x) * 4]).toBeGreaterThanOrEqual(190);
  });

  it('leaves a rim of paint beneath the piece, and no seam between the px of the picture', async () => {
    const even = flat(120, 90, () => [90, 120, 150, 255]);
    const pieces = cutImage(
      even,
      recipe({ steps: [{ kind: 'outline', mode: 'add', points: box(60, 20, 100, 70) }] }),
    )!;
    const alphaAt = (x: number) => pieces.left.data[(45 * 120 + x) * 4 + 3];
    expect([59, 60, 61, 62, 80].map(alphaAt)).toEqual([255, 255, 255, 0, 0]);
    const renderer = await testRenderer();
    const view = { widthPx: 120, heightPx: 90, frameToImage: translation(0.5, 0.5), background: CLEAR };
    const layers = [
      [pieces.left, 0, 0, 1] as const,
      [pieces.taken, pieces.takenAt[0], pieces.takenAt[1], 2] as const,
    ].flatMap(([image, x, y, n]) => {
      const art = testArt(n, image.widthPx, image.heightPx);
      renderer.addImage(art.id, image);
      const plane = testPlane({ id: testPlaneId(`p${n}`) }, image.widthPx, image.heightPx);
      const plan = framePlan(testScene([plane]), 1);
      const [drawn] = plan.planes;
      if (drawn?.state !== 'drawn') throw new Error('The plane is in view');
      const planes = [{ ...drawn, shown: { kind: 'image' as const, art }, artToFrame: translation(x, y) }];
      return renderLayers({ ...plan, planes }, view);
    });
    const { data } = renderer.render(layers, view);
    for (let x = 30; x < 110; x++) expect([x, data[(45 * 120 + x) * 4 + 3]]).toEqual([x, 255]);
  });

  it('takes nothing where nothing is chosen or painted', () => {
    expect(cutImage(painting, recipe({}))).toBeNull();
    expect(cutImage(raster(20, 20, 'straight'), recipe({ steps }))).toBeNull();
  });
});

describe('filling from around', () => {
  const stripes = flat(160, 120, (x, y) => [(x % 16) * 15, y, 120 + 40 * Math.sin(x / 2.546), 255]);
  const hole = new Uint8Array(160 * 120);
  for (let y = 40; y < 75; y++) for (let x = 60; x < 100; x++) hole[y * 160 + x] = 255;
  const holed = flat(160, 120, (x, y) =>
    hole[y * 160 + x] ? [0, 0, 0, 0] : [...stripes.data.subarray((y * 160 + x) * 4, (y * 160 + x) * 4 + 4)],
  );

  it('carries a pattern on across the hole, and changes nothing outside it', () => {
    const seen: number[] = [];
    const coarse: { pxEach: number; left: number }[] = [];
    const filled = fillHole(
      holed,
      hole,
      (share) => seen.push(share),
      (one) => coarse.push(one),
    );
    expect(coarse.map(({ pxEach }) => pxEach)).toEqual(coarse.map((_, i) => 2 ** (coarse.length - i)));
    expect(coarse.length).toBeGreaterThan(0);
    let [off, count] = [0, 0];
    for (let i = 0; i < hole.length; i++) {
      const same = [0, 1, 2, 3].every((c) => filled.data[i * 4 + c] === holed.data[i * 4 + c]);
      if (!hole[i]) expect(same).toBe(true);
      else {
        count += 1;
        off += Math.abs((filled.data[i * 4] as number) - (stripes.data[i * 4] as number));
        expect(filled.data[i * 4 + 3]).toBe(255);
      }
    }
    // A smooth mean of the surroundings would be off by about 60 on these stripes.
    expect(off / count).toBeLessThan(15);
    expect(seen.at(-1)).toBeCloseTo(1, 6);
    expect(seen.every((share, i) => i === 0 || share >= (seen[i - 1] as number))).toBe(true);
  });

  it('gives the same filling every time, and none where nothing is known', () => {
    expect(fillHole(holed, hole).data).toEqual(fillHole(holed, hole).data);
    const nothing = raster(30, 30, 'straight');
    expect(fillHole(nothing, new Uint8Array(900).fill(255))).toBe(nothing);
  });
});

describe('the copy brush', () => {
  it('puts what lies at the offset, whole in the middle of the stroke and nothing outside it', () => {
    const image = flat(60, 40, (x) => (x < 30 ? [255, 0, 0, 255] : [0, 0, 255, 255]));
    const copied = applyCopies(image, [{ points: [[10, 20]], radiusPx: 6, offset: [30, 0] }]);
    const at = (x: number, y: number) => [...copied.data.subarray((y * 60 + x) * 4, (y * 60 + x) * 4 + 4)];
    expect(at(10, 20)).toEqual([0, 0, 255, 255]);
    expect(at(17, 20)).toEqual([255, 0, 0, 255]);
    expect(at(40, 20)).toEqual([0, 0, 255, 255]);
    expect(copied.data.filter((v, i) => v !== image.data[i]).length).toBeGreaterThan(50);
  });
});

describe('the next version of what was cut', () => {
  const steps = [{ kind: 'outline' as const, mode: 'add' as const, points: box(20, 20, 60, 50) }];
  const before = flat(100, 80, (x, y) => [x, y, 90, 255]);
  /** Twice as fine, with 10 px more painted to the west and 4 to the north. */
  const map = { scale: 2, dxPx: 10, dyPx: 4 };
  const same = flat(230, 170, (x, y) => [Math.round((x - 10) / 2), Math.round((y - 4) / 2), 90, 255]);

  it('is cut by the same outline, wherever the painting lies in it and however fine it is', () => {
    const mapped = mappedRecipe(
      recipe({ steps, featherPx: 3, copies: [{ points: [[5, 6]], radiusPx: 4, offset: [1, 2] }] }),
      map,
    );
    expect(mapped.steps[0]).toMatchObject({
      points: [
        [50, 44],
        [130, 44],
        [130, 104],
        [50, 104],
      ],
    });
    expect(mapped.featherPx).toBe(6);
    expect(mapped.copies[0]).toEqual({ points: [[20, 16]], radiusPx: 8, offset: [2, 4] });
    const colour = {
      kind: 'colour' as const,
      mode: 'add' as const,
      at: [7, 8] as [number, number],
      tolerance: 9,
      contiguous: true,
    };
    expect(mappedRecipe(recipe({ steps: [colour] }), map).steps[0]).toMatchObject({
      at: [24, 20],
      tolerance: 9,
    });
  });

  it('says where the paint along the outline has changed, and nothing where only the rest has', () => {
    const mapped = mappedRecipe(recipe({ steps }), map);
    expect(outlineChange(before, same, mapped, map)).toBeNull();
    const inside = flat(230, 170, (x, y) =>
      x > 70 && x < 110 && y > 60 && y < 90
        ? [255, 0, 0, 255]
        : [Math.round((x - 10) / 2), Math.round((y - 4) / 2), 90, 255],
    );
    expect(outlineChange(before, inside, mapped, map)).toBeNull();
    const across = flat(230, 170, (x, y) =>
      x > 120 && x < 150 && y > 60 && y < 90
        ? [255, 0, 0, 255]
        : [Math.round((x - 10) / 2), Math.round((y - 4) / 2), 90, 255],
    );
    const change = outlineChange(before, across, mapped, map)!;
    expect(change.box).toMatchObject({ y0: 61, y1: 90 });
    expect([change.box.x0 > 120, change.box.x1 < 140]).toEqual([true, true]);
    expect([change.share > 0.05, change.share < 0.2]).toEqual([true, true]);
  });
});
