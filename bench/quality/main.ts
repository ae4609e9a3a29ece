import {
  borderPx,
  type DrawArt,
  drawByArea,
  drawByKernel,
  lineWeights,
  type Range,
  ringing,
  stripeContrast,
  zonePlateAlias,
} from '@keen-ridge/core/testing';
import { singleThreadRenderer } from '../../server/threads/kernel-file.ts';
import { canvasDrawer, lanczosDrawer } from './drawers.ts';

const SCALES = [4, 2, 1.25, 1, 0.8, 0.65, 0.62, 0.5, 0.4, 0.3, 0.2, 0.1];
const PERIODS = [2, 2.5, 3, 4, 6, 8];

export interface QualityRow {
  readonly measure: string;
  readonly unit: string;
  readonly kernel: string;
  readonly lanczos: string;
  readonly area: string;
  readonly canvas: string;
  readonly canvasLow: string;
}

const NONE = '–';
const range = ({ least, most }: Range): string => `${least.toFixed(2)} to ${most.toFixed(2)}`;
/** Ways that know no place between px are given lines in many columns instead. */
const WHOLE = { pans: [0], columns: Array.from({ length: 20 }, (_, i) => i) };

type Ways = { readonly kernel: DrawArt; readonly canvas: DrawArt; readonly canvasLow: DrawArt };

/** The same of every way that can do it at any place, one after the other. */
async function each(
  ways: Ways,
  measure: (draw: DrawArt) => Promise<string>,
): Promise<{ kernel: string; canvas: string; canvasLow: string }> {
  return {
    kernel: await measure(ways.kernel),
    canvas: await measure(ways.canvas),
    canvasLow: await measure(ways.canvasLow),
  };
}

async function lines(ways: Ways): Promise<QualityRow[]> {
  const rows: QualityRow[] = [];
  for (const scale of SCALES) {
    const measured = await each(ways, async (draw) => range((await lineWeights(draw, scale)).weight));
    rows.push({
      measure: `weight of a line at ${scale}`,
      unit: 'share',
      ...measured,
      lanczos: range((await lineWeights(lanczosDrawer, scale, WHOLE)).weight),
      area: range((await lineWeights(drawByArea, scale)).weight),
    });
  }
  for (const scale of [1, 0.62, 0.3])
    rows.push({
      measure: `its middle wanders, at ${scale}`,
      unit: 'px rms',
      ...(await each(ways, async (draw) => (await lineWeights(draw, scale)).jitterPx.toFixed(3))),
      lanczos: (await lineWeights(lanczosDrawer, scale, WHOLE)).jitterPx.toFixed(3),
      area: (await lineWeights(drawByArea, scale)).jitterPx.toFixed(3),
    });
  const cases = [
    ['black on white, at 1', 1, { dark: 0, light: 255 }],
    ['black on white, at 0.62', 0.62, { dark: 0, light: 255 }],
    ['in the alpha, at 1', 1, { alpha: true }],
    ['in the alpha, at 0.62', 0.62, { alpha: true }],
    ['squashed to 0.8 × 0.3', 0.8, { scaleY: 0.3 }],
  ] as const;
  for (const [name, scale, options] of cases)
    rows.push({
      measure: `line ${name}`,
      unit: 'share',
      ...(await each(ways, async (draw) => range((await lineWeights(draw, scale, options)).weight))),
      lanczos: NONE,
      area: range((await lineWeights(drawByArea, scale, options)).weight),
    });
  rows.push({
    measure: 'line of tiled art 509 px wide, at 0.3',
    unit: 'share',
    kernel: range((await lineWeights(ways.kernel, 0.3, { widthPx: 509, repeats: true })).weight),
    lanczos: NONE,
    area: NONE,
    canvas: NONE,
    canvasLow: NONE,
  });
  return rows;
}

async function detail(ways: Ways): Promise<QualityRow[]> {
  const rows: QualityRow[] = [];
  for (const degrees of [0, 5, 30])
    for (const period of PERIODS)
      rows.push({
        measure: `stripes of ${period} px${degrees === 0 ? '' : `, turned ${degrees}°`}`,
        unit: 'contrast',
        ...(await each(ways, async (draw) => range(await stripeContrast(draw, period, degrees)))),
        lanczos: NONE,
        area: degrees === 0 ? range(await stripeContrast(drawByArea, period, 0)) : NONE,
      });
  return rows;
}

async function alias(ways: Ways): Promise<QualityRow[]> {
  const rows: QualityRow[] = [];
  for (const scale of [0.8, 0.7, 0.62, 0.5, 0.45, 0.3, 0.2])
    rows.push({
      measure: `zone plate, what is too fine at ${scale}`,
      unit: 'levels rms',
      ...(await each(ways, async (draw) => (await zonePlateAlias(draw, scale)).toFixed(1))),
      lanczos: (await zonePlateAlias(lanczosDrawer, scale)).toFixed(1),
      area: (await zonePlateAlias(drawByArea, scale)).toFixed(1),
    });
  return rows;
}

async function edges(ways: Ways): Promise<QualityRow[]> {
  const rows: QualityRow[] = [];
  for (const scale of [3, 1, 0.8, 0.5])
    rows.push({
      measure: `beside a step of 130, at ${scale}`,
      unit: 'levels past it',
      ...(await each(ways, async (draw) => (await ringing(draw, scale)).toFixed(1))),
      lanczos: (await ringing(lanczosDrawer, scale)).toFixed(1),
      area: (await ringing(drawByArea, scale)).toFixed(1),
    });
  for (const [scale, degrees] of [
    [10, 0],
    [10, 20],
    [1, 0],
  ] as const)
    rows.push({
      measure: `border of the art at ${scale}${degrees === 0 ? '' : `, turned ${degrees}°`}`,
      unit: 'px soft',
      ...(await each(ways, async (draw) => `${await borderPx(draw, scale, degrees)}`)),
      lanczos: NONE,
      area: NONE,
    });
  return rows;
}

const COLUMNS = [
  ['kernel', 'kernel'],
  ['lanczos', 'sharp Lanczos'],
  ['area', 'area'],
  ['canvas', 'canvas, high'],
  ['canvasLow', 'canvas, low'],
] as const;

/** How texels are filtered, beside what others make of the same art: whole numbers of levels, shares and px, not times. */
export async function benchQuality(json: boolean): Promise<void> {
  const [high, low] = [await canvasDrawer('high'), await canvasDrawer('low')];
  try {
    const ways = {
      kernel: drawByKernel(await singleThreadRenderer()),
      canvas: high.draw,
      canvasLow: low.draw,
    };
    const rows = [
      ...(await lines(ways)),
      ...(await detail(ways)),
      ...(await alias(ways)),
      ...(await edges(ways)),
    ];
    if (json) {
      console.log(JSON.stringify({ bench: 'quality', rows }, null, 2));
      return;
    }
    console.log(
      ['what'.padEnd(40), 'unit'.padEnd(15), ...COLUMNS.map(([, title]) => title.padStart(16))].join(''),
    );
    for (const row of rows)
      console.log(
        [
          row.measure.padEnd(40),
          row.unit.padEnd(15),
          ...COLUMNS.map(([name]) => row[name].padStart(16)),
        ].join(''),
      );
  } finally {
    await high.close();
    await low.close();
  }
}
