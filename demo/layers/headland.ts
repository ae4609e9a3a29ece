import { brushOver, loosenEdges } from '../paint/brush.ts';
import { type Canvas, drawShapes, glow } from '../paint/canvas.ts';
import { seeded } from '../paint/random.ts';
import { gradient, path, ridge } from '../paint/shapes.ts';

const AREA = { x: 380, y: 400, width: 2460, height: 250 };

export async function headland(): Promise<Canvas> {
  const defs =
    gradient('far', [
      [0, '#6d6f9c'],
      [1, '#b08fa0'],
    ]) +
    gradient('mid', [
      [0, '#4c5688'],
      [1, '#8a7897'],
    ]) +
    gradient('near', [
      [0, '#38446f'],
      [1, '#6a658b'],
    ]);
  const inBay = (x: number) => 0.35 + 0.65 * Math.abs(Math.cos((x - 700) / 720));
  const shapes =
    path(ridge(31, 380, 2840, 432, 650, 150, 330, inBay), 'url(#far)', 'opacity="0.9"') +
    path(
      ridge(47, 380, 2840, 470, 650, 150, 250, (x) => Math.max(0.12, 1 - (x - 380) / 900)),
      'url(#mid)',
    ) +
    path(
      ridge(53, 380, 2840, 478, 650, 160, 210, (x) => Math.max(0.1, (x - 2000) / 760)),
      'url(#near)',
    );
  const drawn = loosenEdges(await drawShapes(AREA, shapes, defs), 3, 4, 22);
  const slope = (x: number) => Math.sin(x / 90) * 24;
  const painted = brushOver(drawn, 17, [
    { length: 60, width: 18, cover: 1.8, opacity: 0.5, stray: 0.16, direction: slope, wander: 20 },
    { length: 26, width: 6, cover: 1.2, opacity: 0.5, stray: 0.2, direction: slope, wander: 26 },
  ]);
  const random = seeded(8);
  for (let i = 0; i < 34; i++) {
    const x = random() < 0.5 ? 420 + random() * 520 : 2280 + random() * 520;
    const y = 600 + random() * 26;
    glow(painted, x, y, 9, [255, 196, 120], 0.75);
  }
  return painted;
}
