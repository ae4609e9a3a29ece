export type Random = () => number;

/** A seeded generator (mulberry32), so that the painting is the same on every machine. */
export function seeded(seed: number): Random {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t = (t + Math.imul(t ^ (t >>> 7), t | 61)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

export const between = (random: Random, low: number, high: number): number => low + (high - low) * random();

/** Smooth value noise in [−1, 1] on a lattice of unit cells. */
export function valueNoise(seed: number): (x: number, y: number) => number {
  const random = seeded(seed);
  const size = 256;
  const lattice = new Float32Array(size * size);
  for (let i = 0; i < lattice.length; i++) lattice[i] = random() * 2 - 1;
  return (x, y) => {
    const column = Math.floor(x);
    const row = Math.floor(y);
    const u = fade(x - column);
    const v = fade(y - row);
    const [left, right] = [column & 255, (column + 1) & 255];
    const [upper, lower] = [(row & 255) * size, ((row + 1) & 255) * size];
    const topLeft = lattice[upper + left] as number;
    const bottomLeft = lattice[lower + left] as number;
    const top = topLeft + ((lattice[upper + right] as number) - topLeft) * u;
    const bottom = bottomLeft + ((lattice[lower + right] as number) - bottomLeft) * u;
    return top + (bottom - top) * v;
  };
}

const fade = (t: number): number => t * t * (3 - 2 * t);

/** Several octaves of noise, each half as strong and twice as fine. In about [−1, 1]. */
export function layeredNoise(seed: number, octaves: number): (x: number, y: number) => number {
  const noises = Array.from({ length: octaves }, (_, i) => valueNoise(seed + i * 101));
  return (x, y) => {
    let sum = 0;
    let fine = 1;
    for (const noise of noises) {
      sum += noise(x * fine, y * fine) / (2 * fine);
      fine *= 2;
    }
    return sum;
  };
}
