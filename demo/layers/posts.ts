import { brushOver, loosenEdges } from '../paint/brush.ts';
import { type Canvas, drawShapes, lightOn } from '../paint/canvas.ts';
import { ellipse, gradient, line, path, sag } from '../paint/shapes.ts';

const AREA = { x: 160, y: 760, width: 2880, height: 480 };
const POSTS = [330, 1250, 2180, 2900] as const;

function post(x: number, top: number): string {
  return (
    path(
      `M${x - 44},1240 L${x - 36},${top + 10} Q${x},${top - 14} ${x + 36},${top + 10} L${x + 44},1240 Z`,
      'url(#timber)',
    ) +
    ellipse(x, top + 6, 36, 13, '#54484a') +
    [1, 2, 3]
      .map((i) =>
        line(`M${x - 30 + i * 15},${top + 30} L${x - 32 + i * 16},1240`, '#151524', 3, 'opacity="0.6"'),
      )
      .join('') +
    [0, 1, 2]
      .map((i) =>
        line(
          `M${x - 41},${top + 76 + i * 15} Q${x},${top + 92 + i * 15} ${x + 41},${top + 74 + i * 15}`,
          i % 2 ? '#6d5b46' : '#86705a',
          13,
        ),
      )
      .join('')
  );
}

function ropes(): string {
  const pairs = POSTS.slice(1).map((x, i) => [POSTS[i] as number, x] as const);
  return pairs
    .map(
      ([from, to]) =>
        line(sag(from + 36, 918, to - 36, 918, 88), '#3c3338', 17) +
        line(sag(from + 36, 914, to - 36, 914, 88), '#75624c', 7),
    )
    .join('');
}

export async function posts(): Promise<Canvas> {
  const timber = gradient(
    'timber',
    [
      [0, '#14162a'],
      [0.45, '#3d3540'],
      [1, '#191a2c'],
    ],
    'x1="0" y1="0" x2="1" y2="0"',
  );
  const drawn = await drawShapes(
    AREA,
    ropes() + POSTS.map((x, i) => post(x, 826 + (i % 2) * 22)).join(''),
    timber,
  );
  const painted = brushOver(loosenEdges(drawn, 37, 2.2, 20), 59, [
    { length: 64, width: 15, cover: 1.4, opacity: 0.38, stray: 0.24, direction: () => 89, wander: 9 },
    { length: 28, width: 5, cover: 1.4, opacity: 0.42, stray: 0.3, direction: () => 88, wander: 16 },
  ]);
  for (const x of POSTS) lightOn(painted, x < 1690 ? x + 40 : x - 40, 900, 260, [255, 164, 84], 0.4);
  return painted;
}
