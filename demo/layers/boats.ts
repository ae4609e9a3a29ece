import { brushOver, loosenEdges } from '../paint/brush.ts';
import { type Canvas, drawShapes, glow, lightOn } from '../paint/canvas.ts';
import { between, seeded } from '../paint/random.ts';
import { ellipse, line, path, rect, sag } from '../paint/shapes.ts';

const AREA = { x: 260, y: 330, width: 2680, height: 580 };

interface Boat {
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly hull: string;
  readonly stripe: string;
  readonly faces: 1 | -1;
}

const BOATS: readonly Boat[] = [
  { x: 520, y: 792, size: 1.15, hull: '#27324e', stripe: '#8d4a3c', faces: 1 },
  { x: 1010, y: 742, size: 0.86, hull: '#3c3448', stripe: '#c79a66', faces: -1 },
  { x: 1480, y: 770, size: 1.08, hull: '#233a52', stripe: '#d7c6a8', faces: 1 },
  { x: 1990, y: 738, size: 0.8, hull: '#442f38', stripe: '#b7743f', faces: -1 },
  { x: 2420, y: 790, size: 1.2, hull: '#2a3044', stripe: '#5f8a8a', faces: -1 },
];

function drawBoat({ x, y, size, hull, stripe, faces }: Boat, seed: number): string {
  const random = seeded(seed);
  const s = (v: number) => v * size;
  const at = (dx: number, dy: number) => `${(x + faces * s(dx)).toFixed(1)},${(y + s(dy)).toFixed(1)}`;
  const mast = s(between(random, 300, 350));
  const shell = `M${at(-165, -52)} Q${at(-150, 14)} ${at(-118, 30)} L${at(112, 30)} Q${at(168, 4)} ${at(196, -78)} Q${at(80, -36)} ${at(-165, -52)} Z`;
  const cabin = `M${at(-112, -50)} L${at(-106, -104)} L${at(-18, -108)} L${at(-8, -48)} Z`;
  const furled = `M${at(26, -86)} Q${at(-60, -112)} ${at(-140, -92)} Q${at(-60, -74)} ${at(26, -74)} Z`;
  const rigging = [
    sag(x + faces * s(30), y - mast, x + faces * s(190), y - s(76), 3),
    sag(x + faces * s(30), y - mast, x - faces * s(160), y - s(50), 5),
    sag(x + faces * s(30), y - mast * 0.7, x + faces * s(150), y - s(66), 2),
  ];
  const windows = [-92, -62, -34].map((dx) =>
    rect(x + faces * s(dx) - s(8), y - s(90), s(16), s(18), '#ffcf84'),
  );
  return (
    ellipse(x, y + s(34), s(190), s(15), '#0f1a33', 'opacity="0.75"') +
    path(shell, hull) +
    line(`M${at(-162, -42)} Q${at(70, -26)} ${at(190, -66)}`, stripe, s(8)) +
    line(`M${at(-140, 8)} L${at(150, 4)}`, '#151b2d', s(5), 'opacity="0.7"') +
    path(cabin, '#4a4a5c') +
    path(`M${at(-122, -102)} L${at(-8, -108)} L${at(-14, -118)} L${at(-116, -114)} Z`, '#2b2c3e') +
    windows.join('') +
    line(
      `M${(x + faces * s(30)).toFixed(1)},${(y - s(40)).toFixed(1)} L${(x + faces * s(30)).toFixed(1)},${(y - mast).toFixed(1)}`,
      '#2a2734',
      s(7),
    ) +
    line(`M${at(34, -92)} L${at(-142, -98)}`, '#332c34', s(5)) +
    path(furled, '#8c7f80') +
    rigging.map((rope) => line(rope, '#262433', 1.8)).join('')
  );
}

export async function boats(): Promise<Canvas> {
  const drawn = await drawShapes(AREA, BOATS.map((boat, i) => drawBoat(boat, 200 + i)).join(''));
  const painted = brushOver(loosenEdges(drawn, 13, 1.8, 16), 41, [
    { length: 44, width: 12, cover: 1.3, opacity: 0.36, stray: 0.2, direction: () => 4, wander: 16 },
    { length: 20, width: 4, cover: 1.4, opacity: 0.42, stray: 0.28, direction: () => 0, wander: 24 },
  ]);
  for (const { x, y, size, faces } of BOATS) {
    const lantern = { x: x + faces * 30 * size, y: y - 196 * size };
    lightOn(painted, x - faces * 60 * size, y - 60 * size, 170 * size, [255, 176, 96], 0.5);
    glow(painted, lantern.x, lantern.y, 86 * size, [255, 190, 108], 0.55);
    glow(painted, lantern.x, lantern.y, 11, [255, 244, 210], 1);
  }
  return painted;
}
