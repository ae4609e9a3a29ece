export {
  bellOf,
  type DiscRow,
  discOf,
  MOST_STEP,
  type Pass,
  PHASES,
  passOf,
  phaseWeights,
  readingOf,
  tapsFor,
} from './filter/index.ts';
export {
  type GroupLayer,
  groupsIn,
  type ImageLayer,
  type LayerMode,
  levelBounds,
  needsDither,
  type PathLayer,
  type RenderLayer,
} from './layer.ts';
export { applyLook, CURVE_LENGTH, curveTables, type LayerLook, lookedRamp } from './layer-look.ts';
export { renderLayers } from './layers.ts';
export { renderOracle } from './oracle.ts';
export { edgeBounds, pathEdges } from './paths/path-edges.ts';
export { artOfEdge, artsDrawn, edgeOfArt } from './soft-edge.ts';
export { type Background, BLACK, CLEAR, type RenderView } from './view.ts';
