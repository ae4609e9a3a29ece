export {
  type Affine,
  applyAffine,
  compose,
  greatestScale,
  IDENTITY,
  invertAffine,
  leastScale,
  rotation,
  scaling,
  translation,
} from './affine.ts';
export { type Box, mapBox } from './box.ts';
export type { Point } from './point.ts';
export type { PxMap } from './px-map.ts';
