import { closeSeam } from '@keen-ridge/core/image';
import { type BrushPass, brushOver } from '../paint/brush.ts';
import { type Canvas, drawShapes, glow, toRaster } from '../paint/canvas.ts';
import { between, seeded } from '../paint/random.ts';
import { ellipse, gradient, line, path, rect } from '../paint/shapes.ts';

/** Painted past the period, and faded back into the beginning. */
const FADE_PX = 96;

interface StripPlan {
  /** Upper edge in the painting, which is as large as the frame. */
  readonly y: number;
  readonly periodPx: number;
  readonly heightPx: number;
  readonly seed: number;
  readonly defs: string;
  /** Everything within one period; it is drawn again at its neighbours. */
  readonly shapes: string;
  readonly passes: readonly BrushPass[];
  readonly light?: (canvas: Canvas) => void;
}

/** A strip that meets itself: drawn alike on both sides of the seam, brushed, and its ends faded together. */
async function paintStrip(plan: StripPlan): Promise<Canvas> {
  const { periodPx, heightPx, y } = plan;
  const copies = [-1, 0, 1].map((k) => `<g transform="translate(${k * periodPx},0)">${plan.shapes}</g>`);
  const area = { x: 0, y, width: periodPx + FADE_PX, height: heightPx };
  const drawn = await drawShapes(area, copies.join(''), plan.defs);
  const painted = brushOver(drawn, plan.seed, plan.passes);
  plan.light?.(painted);
  const { data } = closeSeam(toRaster(painted), 'across', FADE_PX);
  return { x: 0, y, width: periodPx, height: heightPx, data: Float32Array.from(data) };
}

/** A line of hills that ends as it begins: a few waves, each a whole number of times over the period. */
function hills(seed: number, periodPx: number, top: number, base: number, rise: number): string {
  const random = seeded(seed);
  const waves = [1, 2, 3, 5, 8, 13, 21].map((times) => ({
    times,
    size: between(random, 0.5, 1) / times ** 0.8,
    phase: random() * 2 * Math.PI,
  }));
  const total = waves.reduce((sum, { size }) => sum + size, 0);
  const points = Array.from({ length: Math.round(periodPx / 8) + 1 }, (_, i) => {
    const x = i * 8;
    const sum = waves.reduce(
      (all, { times, size, phase }) => all + size * Math.sin((2 * Math.PI * times * x) / periodPx + phase),
      0,
    );
    return `${x},${(top + rise * (0.5 - sum / total / 2)).toFixed(1)}`;
  });
  return `M0,${base} L${points.join(' L')} L${periodPx},${base} Z`;
}

const strokes = (length: number, width: number, degrees: number): BrushPass => ({
  length,
  width,
  cover: 1.2,
  opacity: 0.42,
  stray: 0.16,
  direction: () => degrees,
  wander: 16,
});

function headlandStrip(): Promise<Canvas> {
  const fill = gradient('hills', [
    [0, '#5a5b86'],
    [1, '#8d7da0'],
  ]);
  return paintStrip({
    y: 400,
    periodPx: 832,
    heightPx: 180,
    seed: 5,
    defs: fill,
    shapes: path(hills(11, 832, 420, 580, 130), 'url(#hills)'),
    passes: [strokes(46, 12, 8), strokes(20, 5, -12)],
  });
}

function seaStrip(): Promise<Canvas> {
  const random = seeded(23);
  const water = gradient('water', [
    [0, '#b98a92'],
    [0.3, '#6d6690'],
    [1, '#2c3a63'],
  ]);
  const glints = Array.from({ length: 150 }, () => {
    const y = between(random, 560, 760);
    const reach = 8 + (y - 560) * 0.16;
    const warm = random() < 0.4 ? '#f4c190' : '#8f8fb4';
    return ellipse(between(random, 0, 1216), y, reach * between(random, 0.6, 2), 1.6, warm, 'opacity="0.5"');
  });
  return paintStrip({
    y: 548,
    periodPx: 1216,
    heightPx: 230,
    seed: 6,
    defs: water,
    shapes: rect(0, 550, 1216, 228, 'url(#water)') + glints.join(''),
    passes: [strokes(52, 6, 0), strokes(24, 4, 0)],
  });
}

const LAMPS = [210, 866] as const;

function wallStrip(): Promise<Canvas> {
  const random = seeded(31);
  const stones: string[] = [];
  for (let row = 0; row < 5; row++) {
    let x = row % 2 === 0 ? 0 : -38;
    while (x < 1312 - 40) {
      const w = Math.min(between(random, 58, 104), 1312 - x);
      const tone = ['#6b6477', '#5c566c', '#776c7c', '#504c64'][Math.floor(random() * 4)] ?? '#6b6477';
      stones.push(rect(x + 2, 660 + row * 38, w - 4, 34, tone, 'rx="6"'));
      x += w;
    }
  }
  const cap = rect(0, 640, 1312, 22, '#857b88') + rect(0, 640, 1312, 6, '#a3979c');
  const posts = LAMPS.map(
    (x) =>
      line(`M${x},648 L${x},470`, '#20202e', 11) +
      line(`M${x},478 q0,-26 30,-26`, '#20202e', 7) +
      path(`M${x + 16},440 l30,0 l-5,48 l-20,0 Z`, '#ffd48c') +
      path(`M${x + 12},442 l38,0 l-19,-22 Z`, '#20202e'),
  );
  return paintStrip({
    y: 400,
    periodPx: 1312,
    heightPx: 460,
    seed: 7,
    defs: '',
    shapes: rect(0, 656, 1312, 200, '#3c3950') + stones.join('') + cap + posts.join(''),
    passes: [strokes(36, 9, 4), strokes(16, 5, 80)],
    light: (canvas) => {
      for (const x of [...LAMPS, ...LAMPS.map((lamp) => lamp + 1312), ...LAMPS.map((lamp) => lamp - 1312)])
        glow(canvas, x + 31, 464, 190, [255, 205, 130], 0.6);
    },
  });
}

function roadStrip(): Promise<Canvas> {
  const random = seeded(37);
  const ground = gradient('road', [
    [0, '#6f6272'],
    [0.25, '#564d63'],
    [1, '#302e45'],
  ]);
  const cobbles = Array.from({ length: 420 }, () => {
    const y = between(random, 846, 1072);
    const size = 12 + (y - 840) * 0.09;
    const tone = random() < 0.5 ? '#7d6f7a' : '#45405a';
    return ellipse(between(random, 0, 1536), y, size, size * 0.36, tone, 'opacity="0.6"');
  });
  const ruts = [912, 1010].map((y) => rect(0, y, 1536, 10, '#2b2940', 'opacity="0.6"'));
  return paintStrip({
    y: 836,
    periodPx: 1536,
    heightPx: 244,
    seed: 8,
    defs: ground,
    shapes: rect(0, 838, 1536, 244, 'url(#road)') + cobbles.join('') + ruts.join(''),
    passes: [strokes(44, 10, 0), strokes(20, 5, 6)],
  });
}

function thistleStrip(): Promise<Canvas> {
  const random = seeded(41);
  const shapes: string[] = [];
  for (const x of [120, 470, 560, 1010, 1390]) {
    for (let i = 0; i < 46; i++) {
      const foot = x + between(random, -90, 90);
      const lean = between(random, -60, 60);
      const high = between(random, 70, 210);
      shapes.push(
        line(
          `M${foot},1090 q${lean * 0.3},${-high * 0.6} ${lean},${-high}`,
          random() < 0.3 ? '#34384e' : '#151826',
          between(random, 3, 7),
        ),
      );
      if (random() < 0.16) shapes.push(ellipse(foot + lean, 1084 - high, 13, 11, '#7a5a80'));
    }
  }
  return paintStrip({
    y: 830,
    periodPx: 1600,
    heightPx: 250,
    seed: 9,
    defs: '',
    shapes: shapes.join(''),
    passes: [strokes(24, 5, 80)],
  });
}

/** The strips of the shot by name, near to far. */
export async function paintStrips(): Promise<{ name: string; canvas: Canvas }[]> {
  return [
    { name: 'Thistles', canvas: await thistleStrip() },
    { name: 'Road', canvas: await roadStrip() },
    { name: 'Sea wall', canvas: await wallStrip() },
    { name: 'Sea', canvas: await seaStrip() },
    { name: 'Far headland', canvas: await headlandStrip() },
  ];
}
