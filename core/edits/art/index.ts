export { addCard, coverCard } from './cards.ts';
export { changeCut, cutPlane } from './cut-plane.ts';
export { applyNewVersion, type LayerMatch, type Likeness, matchLayers } from './new-version.ts';
export {
  AS_PAINTED,
  FITS,
  type Fit,
  fitScale,
  type PaintedLayer,
  type PaintingPlace,
  planeFromLayer,
} from './place-art.ts';
