export {
  type ImportedArt,
  type ImportedNode,
  type ImportedPainting,
  importedArtSchema,
  layerNameSchema,
  likenessSchema,
  shareSchema,
} from './imported-painting.ts';
export { joinSequences, paintedLayers } from './painted-layers.ts';
