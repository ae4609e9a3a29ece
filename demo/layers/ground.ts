import { brushOver, loosenEdges } from '../paint/brush.ts';
import { type Canvas, drawShapes, lightOn } from '../paint/canvas.ts';
import { between, seeded } from '../paint/random.ts';
import { ellipse, gradient, line, path, pick, polygon, rect } from '../paint/shapes.ts';

const AREA = { x: 140, y: 820, width: 2920, height: 420 };
const EDGE = 912;

/** Cobbles in rows that widen towards the viewer. */
function cobbles(): string {
  const random = seeded(5150);
  const stones: string[] = [];
  for (let y = EDGE + 26, height = 9; y < 1240; y += height, height *= 1.13) {
    for (let x = 140 - random() * 60; x < 3060; ) {
      const width = height * between(random, 1.7, 3.1);
      const tone = pick(random, ['#4b4a68', '#57526c', '#3f4262', '#615a70', '#474a6c', '#6b6274']);
      stones.push(
        rect(x, y, width - height * 0.16, height * 0.86, tone, `rx="${(height * 0.34).toFixed(1)}"`),
      );
      stones.push(
        rect(
          x + width * 0.1,
          y + height * 0.08,
          width * 0.6,
          height * 0.18,
          '#8f8494',
          `rx="2" opacity="0.35"`,
        ),
      );
      x += width;
    }
  }
  return rect(140, EDGE, 2920, 330, 'url(#ground)') + stones.join('');
}

function kerb(): string {
  const random = seeded(60);
  const blocks: string[] = [];
  for (let x = 140; x < 3060; ) {
    const width = between(random, 90, 170);
    blocks.push(rect(x, EDGE - 10, width - 4, 38, pick(random, ['#6e6878', '#7a7280', '#625e74']), 'rx="4"'));
    blocks.push(rect(x + 3, EDGE - 10, width - 12, 7, '#a59a9c', 'opacity="0.55"'));
    x += width;
  }
  return blocks.join('');
}

function barrel(x: number, y: number, size: number): string {
  const s = (v: number) => v * size;
  return (
    ellipse(x + s(8), y + s(2), s(62), s(12), '#15182c', 'opacity="0.6"') +
    path(
      `M${x - s(40)},${y - s(112)} Q${x - s(56)},${y - s(56)} ${x - s(40)},${y} L${x + s(40)},${y} Q${x + s(56)},${y - s(56)} ${x + s(40)},${y - s(112)} Z`,
      'url(#wood)',
    ) +
    ellipse(x, y - s(112), s(40), s(11), '#6d5346') +
    [-88, -28]
      .map((dy) =>
        line(`M${x - s(47)},${y + s(dy)} Q${x},${y + s(dy + 12)} ${x + s(47)},${y + s(dy)}`, '#2b2a3a', s(7)),
      )
      .join('')
  );
}

function crate(x: number, y: number, w: number, h: number): string {
  return (
    rect(x - 4, y - 4, w + 16, 12, '#15182c', 'opacity="0.5"') +
    rect(x, y - h, w, h, 'url(#wood)') +
    [0.04, 0.36, 0.68]
      .map((t) => rect(x + 4, y - h + h * t, w - 8, h * 0.25, '#8a6a50', 'opacity="0.55"'))
      .join('') +
    rect(x, y - h, 12, h, '#4d3a36') +
    rect(x + w - 12, y - h, 12, h, '#4d3a36') +
    line(`M${x + 12},${y - 6} L${x + w - 12},${y - h + 6}`, '#5d473c', 9)
  );
}

function ropeCoil(x: number, y: number): string {
  return [0, 1, 2, 3, 4]
    .map((i) =>
      ellipse(
        x,
        y - i * 9,
        58 - i * 3,
        17 - i,
        'none',
        `stroke="${i % 2 ? '#a88d66' : '#8b7352'}" stroke-width="9"`,
      ),
    )
    .join('');
}

function bollard(x: number, y: number): string {
  return (
    ellipse(x, y, 44, 12, '#14172a', 'opacity="0.6"') +
    polygon(
      [
        [x - 26, y],
        [x - 20, y - 70],
        [x + 20, y - 70],
        [x + 26, y],
      ],
      '#262a40',
    ) +
    ellipse(x, y - 72, 31, 13, '#353a55') +
    ellipse(x - 6, y - 76, 16, 5, '#6f7390', 'opacity="0.7"')
  );
}

export async function ground(): Promise<Canvas> {
  const defs =
    gradient('ground', [
      [0, '#3b3d5c'],
      [1, '#22243c'],
    ]) +
    gradient(
      'wood',
      [
        [0, '#4a3836'],
        [0.35, '#8a674c'],
        [1, '#3e3033'],
      ],
      'x1="0" y1="0" x2="1" y2="0"',
    );
  const things =
    bollard(470, 958) +
    bollard(1180, 958) +
    bollard(2260, 958) +
    bollard(2860, 958) +
    crate(700, 1010, 150, 112) +
    crate(768, 900, 112, 88) +
    barrel(620, 1016, 1) +
    barrel(926, 1030, 0.9) +
    crate(2520, 1004, 170, 120) +
    barrel(2480, 1024, 1.05) +
    barrel(2760, 1000, 0.92) +
    ropeCoil(1090, 1062) +
    ropeCoil(2390, 1070);
  const drawn = await drawShapes(AREA, cobbles() + kerb() + things, defs);
  const painted = brushOver(loosenEdges(drawn, 23, 2, 15), 47, [
    { length: 70, width: 15, cover: 1.2, opacity: 0.3, stray: 0.2, direction: () => 0, wander: 8 },
    { length: 26, width: 6, cover: 1.4, opacity: 0.34, stray: 0.26, direction: () => 2, wander: 18 },
    { length: 12, width: 3, cover: 0.9, opacity: 0.4, stray: 0.32, direction: () => 0, wander: 30 },
  ]);
  for (const [x, strength] of [
    [1690, 1],
    [430, 0.75],
    [2660, 0.75],
    [1010, 0.35],
    [2240, 0.35],
  ] as const) {
    lightOn(painted, x, 1010, 520, [255, 170, 84], strength, 0.42);
    lightOn(painted, x, 985, 230, [255, 196, 116], strength * 0.7, 0.4);
  }
  return painted;
}
