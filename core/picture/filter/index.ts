export {
  coverage,
  kernelAt,
  kernelVariance,
  kernelWeights,
  MOST_STEP,
  type Pass,
  PHASES,
  passOf,
  phaseWeights,
  type Reading,
  reachOf,
  readingOf,
  tapsFor,
  widestStep,
} from './filter.ts';
export { bellOf, type DiscRow, discOf } from './softness.ts';
