import { brushOver, loosenEdges } from '../paint/brush.ts';
import { type Canvas, drawShapes, lightOn } from '../paint/canvas.ts';
import { between, seeded } from '../paint/random.ts';
import { ellipse, line, sag } from '../paint/shapes.ts';

const AREA = { x: 0, y: 0, width: 3200, height: 700 };
const SPAR = { x0: -20, y0: 168, x1: 3220, y1: 36 };
const sparY = (x: number) => SPAR.y0 + ((SPAR.y1 - SPAR.y0) * (x - SPAR.x0)) / (SPAR.x1 - SPAR.x0);

/** A net hung to dry over the spar: two families of slack cords, cork floats along its lower edge. */
function net(x0: number, x1: number, drop: number, seed: number): string {
  const random = seeded(seed);
  const parts: string[] = [];
  const hem = (t: number) => drop * (0.62 + 0.38 * Math.sin(Math.PI * (0.15 + 0.7 * t)));
  const step = 0.045;
  for (let t = 0; t <= 1.0001; t += step) {
    const top = x0 + (x1 - x0) * t;
    for (const lean of [0.16, -0.16]) {
      const end = Math.min(1, Math.max(0, t + lean));
      const foot = x0 + (x1 - x0) * end;
      const y0 = sparY(top) + 4;
      const y1 = y0 + hem(end) * Math.abs((end - t) / lean);
      parts.push(
        line(
          `M${top},${y0} Q${top + (foot - top) * 0.2},${(y0 + y1) / 2 + 20} ${foot},${y1}`,
          '#1a1a2b',
          3.4,
        ),
      );
    }
  }
  for (let t = 0; t < 1; t += 0.085) {
    const x = x0 + (x1 - x0) * (t + 0.04);
    parts.push(ellipse(x, sparY(x) + hem(t + 0.04) + 4, 15, 11, random() < 0.3 ? '#7a4434' : '#453a3c'));
  }
  return parts.join('');
}

function spar(): string {
  const body = `M${SPAR.x0},${SPAR.y0} L${SPAR.x1},${SPAR.y1}`;
  return (
    line(body, '#17182a', 58) +
    line(`M${SPAR.x0},${SPAR.y0 - 15} L${SPAR.x1},${SPAR.y1 - 15}`, '#34324a', 14) +
    line(`M${SPAR.x0},${SPAR.y0 + 19} L${SPAR.x1},${SPAR.y1 + 19}`, '#0f1020', 12)
  );
}

function lashings(): string {
  const random = seeded(404);
  return [240, 760, 1420, 2040, 2660, 3060]
    .flatMap((x) =>
      Array.from({ length: 6 }, (_, i) => {
        const at = x + i * 13;
        return line(
          `M${at},${sparY(at) - 32} L${at + 9},${sparY(at) + 32}`,
          i % 2 ? '#6a5844' : '#57483c',
          between(random, 9, 12),
        );
      }),
    )
    .join('');
}

export async function ropes(): Promise<Canvas> {
  const hanging = [
    line(sag(120, 180, 900, 150, 190), '#1f1d2c', 15),
    line(sag(120, 176, 900, 146, 190), '#5d4d40', 5),
    line(sag(1480, 120, 2090, 100, 110), '#1f1d2c', 13),
    line(sag(1480, 116, 2090, 96, 110), '#57483e', 4),
    line(`M820,150 Q806,330 830,470`, '#1f1d2c', 12),
    ellipse(830, 500, 34, 40, '#2a2a3e'),
    line(`M812,474 Q830,540 848,474`, '#6a5844', 6),
    line(`M1400,120 Q1412,260 1396,330`, '#1f1d2c', 9),
  ].join('');
  const drawn = await drawShapes(
    AREA,
    net(150, 700, 330, 71) + net(2120, 3080, 430, 73) + hanging + spar() + lashings(),
  );
  const painted = brushOver(loosenEdges(drawn, 41, 1.8, 24), 61, [
    { length: 80, width: 12, cover: 1.2, opacity: 0.4, stray: 0.26, direction: () => -2.5, wander: 8 },
    { length: 30, width: 5, cover: 1.3, opacity: 0.42, stray: 0.3, direction: () => -2, wander: 24 },
  ]);
  lightOn(painted, 1700, 330, 640, [255, 160, 84], 0.5);
  lightOn(painted, 2500, 520, 520, [255, 150, 90], 0.35);
  return painted;
}
