import { brushOver, loosenEdges } from '../paint/brush.ts';
import { type Canvas, drawShapes, glow, lightOn } from '../paint/canvas.ts';
import { between, type Random, seeded } from '../paint/random.ts';
import { gradient, line, path, pick, polygon, rect } from '../paint/shapes.ts';

const AREA = { x: 80, y: 120, width: 3040, height: 840 };
const STREET = 846;
const WALLS = ['#3a4266', '#4a4460', '#33405e', '#54485e', '#3f4d6b', '#5b4a55', '#463f58'];
const ROOFS = ['#252a45', '#3a2c3c', '#2b3150', '#42303a'];
const SHUTTERS = ['#35606a', '#6e4a44', '#4d5a3f', '#3f4774'];

interface Light {
  readonly x: number;
  readonly y: number;
}

function windowAt(random: Random, x: number, y: number, w: number, h: number, lights: Light[]): string {
  const lit = random() < 0.56;
  const pane = lit
    ? pick(random, ['#ffc873', '#ffb65e', '#ffd993', '#f6a850'])
    : pick(random, ['#1c2440', '#222b4a']);
  if (lit) lights.push({ x: x + w / 2, y: y + h / 2 });
  const shutter = random() < 0.6 ? pick(random, SHUTTERS) : null;
  return (
    (shutter
      ? rect(x - w * 0.5, y - 2, w * 0.42, h + 4, shutter) +
        rect(x + w * 1.08, y - 2, w * 0.42, h + 4, shutter)
      : '') +
    rect(x - 3, y - 3, w + 6, h + 6, '#1f2339') +
    rect(x, y, w, h, pane) +
    (lit ? rect(x, y + h * 0.62, w, h * 0.38, '#ffe2a6', 'opacity="0.5"') : '') +
    rect(x + w / 2 - 1.5, y, 3, h, '#2b2b40') +
    rect(x, y + h * 0.45, w, 3, '#2b2b40') +
    rect(x - 6, y + h + 3, w + 12, 5, '#6a6678')
  );
}

function house(random: Random, x: number, width: number, top: number, lights: Light[]): string {
  const wall = pick(random, WALLS);
  const eaves = top + between(random, 60, 110);
  const peak = x + width * between(random, 0.4, 0.6);
  const chimney = x + width * between(random, 0.14, 0.3);
  const parts = [
    rect(x, eaves, width, STREET - eaves, wall),
    rect(x, eaves, width * 0.16, STREET - eaves, '#141a33', 'opacity="0.28"'),
    rect(chimney, top - 4, 28, 92, '#3b3040'),
    rect(chimney - 4, top - 12, 36, 12, '#272136'),
    polygon(
      [
        [x - 16, eaves + 8],
        [peak, top],
        [x + width + 16, eaves + 8],
      ],
      pick(random, ROOFS),
    ),
    line(
      `M${x - 16},${eaves + 8} L${peak},${top} L${x + width + 16},${eaves + 8}`,
      '#77708c',
      4,
      'opacity="0.75"',
    ),
  ];
  const [columns, floors] = [
    Math.max(2, Math.round(width / 96)),
    Math.max(1, Math.floor((STREET - eaves - 150) / 118)),
  ];
  for (let floor = 0; floor < floors; floor++) {
    for (let column = 0; column < columns; column++) {
      const gap = width / columns;
      parts.push(windowAt(random, x + gap * (column + 0.5) - 17, eaves + 38 + floor * 118, 34, 54, lights));
    }
  }
  parts.push(doorway(random, x + width * between(random, 0.25, 0.6), lights));
  if (random() < 0.6) parts.push(awning(random, x + width * 0.08, STREET - 150, width * 0.36));
  return parts.join('');
}

function doorway(random: Random, x: number, lights: Light[]): string {
  lights.push({ x: x + 26, y: STREET - 128 });
  const arch = `M${x},${STREET} L${x},${STREET - 82} Q${x + 26},${STREET - 122} ${x + 52},${STREET - 82} L${x + 52},${STREET} Z`;
  return (
    path(arch, '#1a1d31', 'stroke="#6b6478" stroke-width="6"') +
    (random() < 0.5
      ? rect(x + 6, STREET - 80, 40, 80, '#ffb45c', 'opacity="0.75"')
      : rect(x + 8, STREET - 78, 36, 78, '#40303a'))
  );
}

function awning(random: Random, x: number, y: number, width: number): string {
  const [plain, stripe] = pick(random, [
    ['#8a5248', '#c9a987'],
    ['#3f6670', '#a8b7a8'],
    ['#7a6a4a', '#cbb98f'],
  ] as const);
  const stripes = Array.from({ length: 6 }, (_, i) =>
    polygon(
      [
        [x + (i * width) / 6, y],
        [x + ((i + 1) * width) / 6, y],
        [x - 12 + ((i + 1) * (width + 24)) / 6, y + 40],
        [x - 12 + (i * (width + 24)) / 6, y + 40],
      ],
      i % 2 ? plain : stripe,
    ),
  );
  return stripes.join('') + rect(x - 12, y + 40, width + 24, 8, '#2c2636');
}

/** Two terraces with the harbour mouth open between them, and the quay wall along the whole. */
function terraces(lights: Light[]): string {
  const random = seeded(314);
  const parts: string[] = [];
  for (const [from, to] of [
    [92, 1180],
    [2170, 3106],
  ] as const) {
    for (let x = from; x < to - 60; ) {
      const width = Math.min(between(random, 170, 290), to - x);
      const inward = from < 1000 ? (x - from) / (to - from) : 1 - (x - from) / (to - from);
      parts.push(house(random, x, width, between(random, 190, 300) + inward * 150, lights));
      x += width + between(random, -4, 12);
    }
  }
  return parts.join('');
}

function quayWall(): string {
  const random = seeded(77);
  const stones = [rect(80, STREET, 3040, 114, 'url(#wall)')];
  for (let row = 0; row < 4; row++) {
    for (let x = 80 + (row % 2) * 30; x < 3120; ) {
      const width = between(random, 52, 104);
      stones.push(
        rect(
          x,
          STREET + 6 + row * 27,
          width - 4,
          23,
          pick(random, ['#5c5870', '#4d4b66', '#6a6274', '#434460']),
          'rx="4" opacity="0.8"',
        ),
      );
      x += width;
    }
  }
  return stones.join('') + rect(80, STREET - 8, 3040, 14, '#857c88');
}

export async function houses(): Promise<Canvas> {
  const lights: Light[] = [];
  const wall = gradient('wall', [
    [0, '#565268'],
    [1, '#2b2d48'],
  ]);
  const drawn = await drawShapes(AREA, terraces(lights) + quayWall(), wall);
  const upright = (_x: number, y: number) => (y > STREET ? 0 : 86);
  const painted = brushOver(loosenEdges(drawn, 19, 2.2, 20), 43, [
    { length: 52, width: 20, cover: 1.3, opacity: 0.34, stray: 0.22, direction: upright, wander: 24 },
    { length: 26, width: 7, cover: 1.3, opacity: 0.36, stray: 0.26, direction: upright, wander: 40 },
    { length: 13, width: 3.5, cover: 0.9, opacity: 0.4, stray: 0.3, direction: upright, wander: 60 },
  ]);
  for (const { x, y } of lights) {
    lightOn(painted, x, y + 26, 120, [255, 170, 86], 0.34);
    glow(painted, x, y, 64, [255, 186, 100], 0.26);
  }
  for (const { x } of lights.filter(({ y }) => y > STREET - 140)) {
    const y = STREET - 148;
    lightOn(painted, x, y + 60, 220, [255, 176, 92], 0.7);
    glow(painted, x, y, 90, [255, 200, 120], 0.5);
    glow(painted, x, y, 12, [255, 246, 214], 1);
  }
  return painted;
}
