import type { Affine } from '../geometry/index.ts';

/**
 * How a level is read, and the kernel that weighs its texels. The kernel is a function of the step alone, how many texels
 * lie from one output px to the next:
 *
 *   k = box(step) ∗ box(1) ∗ p,   p = A·triangle(m) − (A − 1)·box(2m),   m = (3 − step)/2,   A = 3 − 7·(step − 1), at least 2
 *
 * `box(step)` makes every texel's weights add up to the same in all output px, wherever it falls; `box(1)` makes the weights
 * of every output px add up to one; `p` gives back what both take off the sharpness. At a step of 1 and under it this is
 * the cubic of Catmull and Rom (Keys 1981, a = −1/2), whose Fourier transform is sinc³(f)·(3·sinc(f) − 2·cos(πf)); from 3 on,
 * which only squashed planes have, it is the plain area of texels. No kernel is wider than 4 texels up to a step of 3.
 */
export function kernelAt(step: number, x: number): number {
  const widened = widenedStep(step);
  const p = twiceSummed(widened);
  const [far, near] = [(widened + 1) / 2, (widened - 1) / 2];
  return (p(x + far) - p(x + near) - p(x - near) + p(x - far)) / widened;
}

/** Kernels of all steps up to 1 are alike, and so are those past MOST_STEP. */
export const widenedStep = (step: number): number => Math.min(MOST_STEP, Math.max(1, step));

/** Past this step reading no longer widens: what is reduced further has a coarser level. */
export const MOST_STEP = 15;

/** The second antiderivative of p, even; the last one is kept, since a whole picture asks for few. */
function twiceSummed(step: number): (x: number) => number {
  if (step !== lastStep) [lastStep, lastSummed] = [step, summedTwice(step)];
  return lastSummed;
}
let lastStep = Number.NaN;
let lastSummed = Math.abs;

function summedTwice(step: number): (x: number) => number {
  const { m, sharp } = sharpening(step);
  // Its curve is under 1e-9 there, and its terms divide by m.
  if (m < 1e-6) return (x) => Math.abs(x) / 2;
  const square = sharp / (2 * m) - (sharp - 1) / (4 * m);
  const cube = sharp / (6 * m * m);
  return (x) => {
    const away = Math.abs(x);
    const inside = Math.min(away, m);
    return inside * inside * (square - cube * inside) + (away - inside) / 2;
  };
}

const sharpening = (step: number): { readonly m: number; readonly sharp: number } => ({
  m: Math.max(0, (3 - step) / 2),
  sharp: Math.max(2, 3 - 7 * (step - 1)),
});

/**
 * The weights of `taps` texels next to each other, the first of them at `from` from the px, texels: as kernelAt, with what
 * neighbours share summed once.
 */
export function kernelWeights(step: number, from: number, taps: number, out: Float64Array): void {
  const widened = widenedStep(step);
  const p = twiceSummed(widened);
  let before = p(from + (widened - 1) / 2) - p(from - (widened + 1) / 2);
  for (let k = 0; k < taps; k++) {
    const after = p(from + k + (widened + 1) / 2) - p(from + k - (widened - 1) / 2);
    out[k] = (after - before) / widened;
    before = after;
  }
}

/** How far from the middle the kernel reaches, texels. */
export const reachOf = (step: number): number => (step <= 3 ? 2 : (Math.min(MOST_STEP, step) + 1) / 2);

/** Texels that are weighed for one output px, a multiple of four. */
export const tapsFor = (step: number): number => 4 * Math.ceil((2 * reachOf(step)) / 4);

/** The variance of the kernel, texels²: what reading blurs by itself. */
export function kernelVariance(step: number): number {
  if (step <= 1) return 0;
  const { m, sharp } = sharpening(step);
  return (1 + step * step) / 12 + (m * m * (2 - sharp)) / 6;
}

/** Share of an output px at `at` (continuous, texels) that lies on an axis of `size` texels: a border as sharp as one px. */
export function coverage(
  at: number,
  step: number,
  size: number,
  extends_: { before: boolean; after: boolean },
): number {
  const from = extends_.before ? at - step / 2 : Math.max(0, at - step / 2);
  const to = extends_.after ? at + step / 2 : Math.min(size, at + step / 2);
  return Math.min(1, Math.max(0, (to - from) / step));
}

/**
 * Reading in two passes, for any map from px to texels (u, v): along a row of texels where a line of output px crosses it,
 * then from row to row along that line. The line is a column of the picture, or a row of it where the art is turned by more
 * than 45°. Weights of a pass are those of its own step; the two steps multiply to the texels under a px, so that every
 * texel has the same weight in the picture however it is turned.
 */
export interface Reading {
  /** The lines are rows of the picture. */
  readonly alongRows: boolean;
  /** Texels from one line to the next along a row of texels; from one px to the next across the rows. */
  readonly stepU: number;
  readonly stepV: number;
}

export function readingOf({ a, b, c, d }: Affine): Reading {
  const alongRows = Math.abs(b) > Math.abs(d);
  const stepV = Math.abs(alongRows ? b : d);
  return { alongRows, stepU: Math.abs(a * d - b * c) / stepV, stepV };
}

/** Phases within a texel for which weights are kept. */
export const PHASES = 1024;
/** The weights of a px, as whole numbers, add up to this. */
export const WEIGHT_ONE = 16_384;

/**
 * Weights for every phase i/PHASES of a px within a texel, `tapsFor(step)` each, the first at texel ⌊u⌋ + 1 − taps/2 (u counts
 * from the middle of the first texel). They add up to WEIGHT_ONE exactly, so that an even colour stays as it is.
 */
export function phaseWeights(step: number): Int16Array {
  const taps = tapsFor(step);
  const weights = new Int16Array(PHASES * taps);
  const exact = new Float64Array(taps);
  for (let i = 0; i < PHASES; i++) {
    kernelWeights(step, 1 - taps / 2 - i / PHASES, taps, exact);
    let [rest, most] = [WEIGHT_ONE, 0];
    for (let k = 0; k < taps; k++) {
      const whole = Math.round((exact[k] as number) * WEIGHT_ONE);
      weights[i * taps + k] = whole;
      rest -= whole;
      if ((exact[k] as number) > (exact[most] as number)) most = k;
    }
    weights[i * taps + most] = (weights[i * taps + most] as number) + rest;
  }
  return weights;
}
