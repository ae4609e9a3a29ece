import { between, layeredNoise, type Random } from './random.ts';

/** Numbers in SVG: short, and never in exponent form. */
const n = (value: number): string => value.toFixed(1);

export const rect = (x: number, y: number, w: number, h: number, fill: string, more = ''): string =>
  `<rect x="${n(x)}" y="${n(y)}" width="${n(w)}" height="${n(h)}" fill="${fill}" ${more}/>`;

export const path = (d: string, fill: string, more = ''): string => `<path d="${d}" fill="${fill}" ${more}/>`;

export const line = (d: string, colour: string, width: number, more = ''): string =>
  `<path d="${d}" fill="none" stroke="${colour}" stroke-width="${n(width)}" stroke-linecap="round" ${more}/>`;

export const ellipse = (x: number, y: number, rx: number, ry: number, fill: string, more = ''): string =>
  `<ellipse cx="${n(x)}" cy="${n(y)}" rx="${n(rx)}" ry="${n(ry)}" fill="${fill}" ${more}/>`;

export const polygon = (points: readonly (readonly [number, number])[], fill: string, more = ''): string =>
  `<polygon points="${points.map(([x, y]) => `${n(x)},${n(y)}`).join(' ')}" fill="${fill}" ${more}/>`;

/** Stops as `[offset 0…1, colour, opacity?]`. */
export function gradient(
  id: string,
  stops: readonly (readonly [number, string, number?])[],
  vector = 'x1="0" y1="0" x2="0" y2="1"',
): string {
  const marks = stops.map(
    ([at, colour, opacity = 1]) => `<stop offset="${at}" stop-color="${colour}" stop-opacity="${opacity}"/>`,
  );
  return `<linearGradient id="${id}" ${vector}>${marks.join('')}</linearGradient>`;
}

/** A skyline of hills from x0 to x1, closed down to `base`. */
export function ridge(
  seed: number,
  x0: number,
  x1: number,
  top: number,
  base: number,
  rise: number,
  scale: number,
  hold: (x: number) => number = () => 1,
): string {
  const noise = layeredNoise(seed, 5);
  const points: string[] = [];
  for (let x = x0; x <= x1; x += 6) {
    const height = (noise(x / scale, seed * 0.37) * 0.5 + 0.5) * rise * hold(x);
    points.push(`${n(x)},${n(top + rise - height)}`);
  }
  return `M${n(x0)},${n(base)} L${points.join(' L')} L${n(x1)},${n(base)} Z`;
}

/** A rope that hangs between two points. */
export const sag = (x0: number, y0: number, x1: number, y1: number, drop: number): string =>
  `M${n(x0)},${n(y0)} Q${n((x0 + x1) / 2)},${n((y0 + y1) / 2 + drop * 2)} ${n(x1)},${n(y1)}`;

export const pick = <T>(random: Random, items: readonly T[]): T =>
  items[Math.floor(random() * items.length)]!;
export { between };
