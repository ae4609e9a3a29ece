export {
  type ImportedArt,
  type ImportedLayer,
  type ImportedNode,
  type ImportedPainting,
  importedArtSchema,
  importedPaintingSchema,
  layerNameSchema,
  likenessSchema,
  shareSchema,
} from './imported-painting.ts';
export { paintedLayers } from './painted-layers.ts';
export { movingLayer, partOfFilm } from './part-of-film.ts';
export {
  asPaintings,
  memberKeys,
  onlyStill,
  type PictureSet,
  paintingOfSet,
  pictureSets,
  type ReadPicture,
  SET_KINDS,
  type SetKind,
} from './picture-set.ts';
