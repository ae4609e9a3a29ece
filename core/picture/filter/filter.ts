import { type Affine, greatestScale } from '../../geometry/index.ts';
import { memo } from '../../units/index.ts';

/** What the kernel of a pass over texels is made of. */
export interface Pass {
  /** Texels from one output px to the next, 1 to MOST_STEP. */
  readonly step: number;
  /** How much it sharpens, 3 to 2: A of kernelAt; 0 where it smooths instead. */
  readonly sharp: number;
}

/** Past this step reading no longer widens: what is reduced further has a coarser level. */
export const MOST_STEP = 15;

/**
 * The pass of a step; all up to 1 are alike. `reduction`: texels to a px whichever way they are turned, where that is less:
 * sharpening falls from 3 to 2 as there come to be more texels than px, for what is too fine for the px would beat with them.
 */
export const passOf = (step: number, reduction = step): Pass => ({
  step: Math.min(MOST_STEP, Math.max(1, step)),
  sharp: Math.min(3, Math.max(2, 3 - 7 * (Math.min(step, reduction) - 1))),
});

/**
 * The pass for what will be blurred: p = box(step). What is finer than a px then does not move by parts of one as it comes to
 * lie otherwise between them, which a blur of a reduced picture would show many px wide.
 */
export const smoothPass = (step: number): Pass =>
  step <= 1 ? passOf(step) : { step: Math.min(widestStep(true), step), sharp: 0 };

/** Past this step a pass no longer widens; a smooth one takes no more texels than the others do. */
export const widestStep = (smooth: boolean): number => (smooth ? MOST_STEP / 2 : MOST_STEP);

/**
 * The kernel that weighs texels, `x` texels from the middle of a px:
 *
 *   k = box(step) ∗ box(1) ∗ p,   p = A·triangle(m) − (A − 1)·box(2m),   m = (3 − step)/2
 *
 * `box(step)` makes every texel's weights add up to the same in all output px, wherever it falls; `box(1)` makes the weights
 * of every output px add up to one; `p` gives back what both take off the sharpness. At a step of 1 and A = 3 this is the
 * cubic of Catmull and Rom (Keys 1981, a = −1/2), whose Fourier transform is sinc³(f)·(3·sinc(f) − 2·cos(πf)); from 3 on,
 * which only squashed planes have, it is the plain area of texels. No kernel is wider than 4 texels up to a step of 3.
 */
export function kernelAt(pass: Pass, x: number): number {
  const p = twiceSummed(pass);
  const [far, near] = [(pass.step + 1) / 2, (pass.step - 1) / 2];
  return (p(x + far) - p(x + near) - p(x - near) + p(x - far)) / pass.step;
}

/** The second antiderivative of p, even. */
const twiceSummed = memo(({ step, sharp }: Pass): ((x: number) => number) => {
  if (sharp === 0)
    return (x) => {
      const inside = Math.min(Math.abs(x), step / 2);
      return (inside * inside) / (2 * step) + (Math.abs(x) - inside) / 2;
    };
  const m = narrowing(step);
  // Its curve is under 1e-9 there, and its terms divide by m.
  if (m < 1e-6) return (x) => Math.abs(x) / 2;
  const square = sharp / (2 * m) - (sharp - 1) / (4 * m);
  const cube = sharp / (6 * m * m);
  return (x) => {
    const away = Math.abs(x);
    const inside = Math.min(away, m);
    return inside * inside * (square - cube * inside) + (away - inside) / 2;
  };
});

/** Half of what is left of 4 texels beside the two boxes, at most. */
const narrowing = (step: number): number => Math.max(0, (3 - step) / 2);

/**
 * The weights of `taps` texels next to each other, the first of them at `from` from the px, texels: as kernelAt, with what
 * neighbours share summed once.
 */
export function kernelWeights(pass: Pass, from: number, taps: number, out: Float64Array): void {
  const p = twiceSummed(pass);
  const [far, near] = [(pass.step + 1) / 2, (pass.step - 1) / 2];
  let before = p(from + near) - p(from - far);
  for (let k = 0; k < taps; k++) {
    const after = p(from + k + far) - p(from + k - near);
    out[k] = (after - before) / pass.step;
    before = after;
  }
}

/** How far from the middle the kernel reaches, texels. */
export function reachOf({ step, sharp }: Pass): number {
  if (sharp === 0) return step + 0.5;
  return step <= 3 ? 2 : (step + 1) / 2;
}

/** Texels that are weighed for one output px, a multiple of four. */
export const tapsFor = (pass: Pass): number => 4 * Math.ceil((2 * reachOf(pass)) / 4);

/** The variance of the kernel, texels²: what reading blurs by itself. */
export function kernelVariance({ step, sharp }: Pass): number {
  if (sharp === 0) return (1 + 2 * step * step) / 12;
  return (1 + step * step) / 12 + (narrowing(step) ** 2 * (2 - sharp)) / 6;
}

/** Share of an output px at `at` (continuous, texels) that lies between `first` and `last`: a border as sharp as one px. */
export const coverage = (at: number, step: number, first: number, last: number): number =>
  Math.min(1, Math.max(0, (Math.min(last, at + step / 2) - Math.max(first, at - step / 2)) / step));

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
  readonly passU: Pass;
  readonly passV: Pass;
}

/** `smooth`: by smoothPass. */
export function readingOf(pxToTexels: Affine, smooth = false): Reading {
  const { a, b, c, d } = pxToTexels;
  const alongRows = Math.abs(b) > Math.abs(d);
  const stepV = Math.abs(alongRows ? b : d);
  const stepU = Math.abs(a * d - b * c) / stepV;
  const reduction = greatestScale(pxToTexels);
  const pass = (step: number) => (smooth ? smoothPass(step) : passOf(step, reduction));
  return { alongRows, stepU, stepV, passU: pass(stepU), passV: pass(stepV) };
}

/** Phases within a texel for which weights are kept. */
export const PHASES = 1024;
/** The weights of a px, as whole numbers, add up to this. */
export const WEIGHT_ONE = 16_384;

/**
 * Weights for every phase i/PHASES of a px within a texel, `tapsFor(pass)` each, the first at texel ⌊u⌋ + 1 − taps/2 (u counts
 * from the middle of the first texel). They add up to WEIGHT_ONE exactly, so that an even colour stays as it is.
 */
export function phaseWeights(pass: Pass): Int16Array {
  const taps = tapsFor(pass);
  const weights = new Int16Array(PHASES * taps);
  const exact = new Float64Array(taps);
  for (let i = 0; i < PHASES; i++) {
    kernelWeights(pass, 1 - taps / 2 - i / PHASES, taps, exact);
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
