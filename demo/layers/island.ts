import { brushOver, loosenEdges } from '../paint/brush.ts';
import { type Canvas, drawShapes, glow, lightOn } from '../paint/canvas.ts';
import { between, layeredNoise, seeded } from '../paint/random.ts';
import { ellipse, gradient, path, polygon, rect } from '../paint/shapes.ts';

const AREA = { x: 1270, y: 190, width: 900, height: 470 };
const LAMP = { x: 1742, y: 316 };

/** The island's hump rises to the foot of the tower and falls off to both sides. */
const hump = (x: number) => Math.max(0.02, 1 - ((x - 1735) / 360) ** 2);

function hill(): string {
  const rough = layeredNoise(71, 4);
  const points: string[] = [];
  for (let x = 1376; x <= 2094; x += 5) {
    points.push(`${x},${(644 - 146 * hump(x) * (0.94 + 0.12 * rough(x / 70, 3))).toFixed(1)}`);
  }
  return `M1376,646 L${points.join(' L')} L2094,646 Z`;
}

function tower(): string {
  const { x } = LAMP;
  return (
    polygon(
      [
        [x - 21, 505],
        [x - 14, 342],
        [x + 14, 342],
        [x + 21, 505],
      ],
      'url(#tower)',
    ) +
    rect(x - 19, 392, 38, 27, '#8c3f3a', 'opacity="0.9"') +
    rect(x - 20, 446, 40, 26, '#7f3835', 'opacity="0.9"') +
    rect(x - 22, 333, 44, 9, '#20263c') +
    rect(x - 11, 303, 22, 30, '#ffe9b4') +
    rect(x - 1, 303, 2, 30, '#3b3a44') +
    polygon(
      [
        [x - 15, 304],
        [x, 284],
        [x + 15, 304],
      ],
      '#20263c',
    ) +
    rect(x - 46, 478, 46, 32, '#3a3f5c') +
    polygon(
      [
        [x - 52, 480],
        [x - 23, 460],
        [x + 4, 480],
      ],
      '#262b46',
    ) +
    rect(x - 34, 488, 9, 10, '#ffcf7e')
  );
}

function trees(): string {
  const random = seeded(64);
  return Array.from({ length: 46 }, () => {
    const x = between(random, 1470, 2010);
    const y = 646 - 140 * hump(x) + between(random, 6, 34);
    return ellipse(
      x,
      y,
      between(random, 8, 24),
      between(random, 7, 17),
      random() < 0.5 ? '#2a3350' : '#323b58',
    );
  }).join('');
}

export async function island(): Promise<Canvas> {
  const defs =
    gradient('rock', [
      [0, '#363f62'],
      [0.6, '#3f4468'],
      [1, '#5c5878'],
    ]) +
    gradient(
      'tower',
      [
        [0, '#5d6488'],
        [0.45, '#c7b7b4'],
        [1, '#7d7c98'],
      ],
      'x1="0" y1="0" x2="1" y2="0"',
    );
  const drawn = await drawShapes(AREA, path(hill(), 'url(#rock)') + trees() + tower(), defs);
  const painted = brushOver(loosenEdges(drawn, 5, 2.4, 14), 29, [
    {
      length: 34,
      width: 12,
      cover: 1.6,
      opacity: 0.42,
      stray: 0.22,
      direction: (x) => (x - 1735) / 9,
      wander: 30,
    },
    {
      length: 15,
      width: 4.5,
      cover: 1.4,
      opacity: 0.42,
      stray: 0.26,
      direction: (x) => (x - 1735) / 9 + 60,
      wander: 60,
    },
  ]);
  lightOn(painted, LAMP.x, LAMP.y + 40, 190, [255, 190, 110], 0.5);
  for (const [reach, strength] of [
    [430, 0.3],
    [150, 0.5],
    [46, 0.9],
  ] as const) {
    glow(painted, LAMP.x, LAMP.y, reach, [255, 214, 140], strength, reach > 400 ? 0.3 : 1);
  }
  glow(painted, LAMP.x, LAMP.y, 16, [255, 247, 220], 1);
  return painted;
}
