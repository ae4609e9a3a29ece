export const median = (values: readonly number[]): number =>
  [...values].sort((p, q) => p - q)[Math.floor(values.length / 2)] ?? Number.NaN;

/** Milliseconds that `work` takes. */
export async function timed(work: () => unknown): Promise<number> {
  const start = performance.now();
  await work();
  return performance.now() - start;
}

/** Exponent of y = c·x^k, fitted by least squares of the logarithms. */
export function fittedExponent(points: readonly (readonly [number, number])[]): number {
  const logs = points.map(([x, y]) => [Math.log(x), Math.log(y)] as const);
  const mean = (i: 0 | 1) => logs.reduce((sum, p) => sum + p[i], 0) / logs.length;
  const [mx, my] = [mean(0), mean(1)];
  const cross = logs.reduce((sum, [x, y]) => sum + (x - mx) * (y - my), 0);
  return cross / logs.reduce((sum, [x]) => sum + (x - mx) ** 2, 0);
}
