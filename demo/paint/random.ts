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
  const lattice = Float32Array.from({ length: size * size }, () => random() * 2 - 1);
  const at = (x: number, y: number) => lattice[(y & 255) * size + (x & 255)] as number;
  const fade = (t: number) => t * t * (3 - 2 * t);
  return (x, y) => {
    const [cx, cy] = [Math.floor(x), Math.floor(y)];
    const [u, v] = [fade(x - cx), fade(y - cy)];
    const top = at(cx, cy) + (at(cx + 1, cy) - at(cx, cy)) * u;
    const bottom = at(cx, cy + 1) + (at(cx + 1, cy + 1) - at(cx, cy + 1)) * u;
    return top + (bottom - top) * v;
  };
}

/** Several octaves of noise, each half as strong and twice as fine. In about [−1, 1]. */
export function layeredNoise(seed: number, octaves: number): (x: number, y: number) => number {
  const noises = Array.from({ length: octaves }, (_, i) => valueNoise(seed + i * 101));
  return (x, y) => noises.reduce((sum, noise, i) => sum + noise(x * 2 ** i, y * 2 ** i) / 2 ** (i + 1), 0);
}
