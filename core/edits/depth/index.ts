export {
  flattenDepths,
  nearestDepthSpx,
  reverseDepths,
  scaleDepths,
  setPlaneDepth,
  setPlanesDepth,
  spreadPlanes,
} from './depths.ts';
