export { type NeedsAnArtist, versionByNames } from './by-names.ts';
export { addCard, coverCard } from './cards.ts';
export {
  type CutAgain,
  type CutResult,
  changeCut,
  cutPlane,
  cutStepsOf,
  stepsOfPiece,
} from './cut-plane.ts';
export { drawingsAsPlanes, type NoDrawings, planesAsDrawings, repainted } from './drawings.ts';
export {
  applyNewVersion,
  type CutToMake,
  cutsToMake,
  type LayerMatch,
  type Likeness,
  likenessApart,
  matchLayers,
  onCanvas,
  type PaintedOver,
  SAME_LOOK,
} from './new-version.ts';
export {
  AS_PAINTED,
  FITS,
  type Fit,
  fitScale,
  type PaintedLayer,
  type PaintingPlace,
  planeFromLayer,
} from './place-art.ts';
