import { brushOver, loosenEdges } from '../paint/brush.ts';
import { type Canvas, drawShapes, glow } from '../paint/canvas.ts';
import { seeded } from '../paint/random.ts';
import { ellipse, gradient, line, path, rect } from '../paint/shapes.ts';
import { trackX } from './cliff.ts';

/** The car stands here on the track, its floor level though the track leans. */
const AT = { x: trackX(1640), y: 1640 };
const CAR = { x: Math.round(AT.x - 240), y: AT.y - 330, width: 480, height: 380 };
/** Round the lamp on the car's roof. */
export const FLICKER = { x: Math.round(AT.x + 70), y: AT.y - 420, width: 240, height: 240 };

export async function car(): Promise<Canvas> {
  const { x, y } = AT;
  const body = gradient('body', [
    [0, '#b5543a'],
    [0.6, '#8c3a30'],
    [1, '#5b2630'],
  ]);
  const windows = [-150, -78, -6, 66].map(
    (dx) => rect(x + dx, y - 205, 56, 74, '#ffd890') + rect(x + dx, y - 205, 56, 9, '#e8a860'),
  );
  const shapes = [
    path(
      `M${x - 190},${y} L${x - 176},${y - 250} Q${x},${y - 296} ${x + 176},${y - 250} L${x + 190},${y} Z`,
      'url(#body)',
    ),
    path(
      `M${x - 200},${y - 244} Q${x},${y - 322} ${x + 200},${y - 244} l0,16 Q${x},${y - 296} ${x - 200},${y - 228} Z`,
      '#3b2a3a',
    ),
    ...windows,
    rect(x + 132, y - 212, 42, 200, '#6d2d2c'),
    rect(x + 138, y - 200, 30, 64, '#ffe0a0'),
    line(`M${x - 186},${y - 96} L${x + 186},${y - 96}`, '#e2b26a', 6),
    path(`M${x - 150},${y} l300,0 l-40,44 l-220,0 Z`, '#2b2733'),
    ellipse(x - 92, y + 24, 22, 22, '#1c1b24'),
    ellipse(x + 92, y + 24, 22, 22, '#1c1b24'),
    line(`M${x + 188},${y - 236} l0,-44`, '#241f2b', 8),
    rect(x + 172, y - 316, 34, 40, '#ffe6b0'),
  ];
  const drawn = loosenEdges(await drawShapes(CAR, shapes.join(''), body), 12, 3, 14);
  const painted = brushOver(drawn, 51, [
    { length: 34, width: 9, cover: 1.3, opacity: 0.42, stray: 0.14, direction: () => 4, wander: 18 },
  ]);
  for (const dx of [-122, -50, 22, 94]) glow(painted, x + dx, y - 168, 80, [255, 214, 140], 0.4);
  return painted;
}

/** Six drawings of the lamp's light, never the same twice: strong, weak, nearly out. */
export async function flicker(): Promise<Canvas[]> {
  const random = seeded(77);
  const strengths = [1, 0.82, 0.94, 0.55, 0.88, 0.7];
  // Where each lies is settled before any is drawn: which is ready first is another every time.
  const lights = strengths.map((strength) => ({
    strength,
    cx: AT.x + 189 + (random() - 0.5) * 5,
    cy: AT.y - 297 + (random() - 0.5) * 5,
  }));
  return Promise.all(
    lights.map(async ({ strength, cx, cy }) => {
      const canvas = await drawShapes(FLICKER, '');
      glow(canvas, cx, cy, 112 * (0.75 + 0.25 * strength), [255, 196, 110], 0.75 * strength);
      glow(canvas, cx, cy, 34, [255, 244, 214], 0.9 * strength);
      return canvas;
    }),
  );
}
