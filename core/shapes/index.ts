export {
  addNode,
  deleteNode,
  isSmooth,
  mapOutline,
  moveHandle,
  moveNode,
  setSmooth,
} from './edit-outline.ts';
export { standInFigure } from './figure.ts';
export { cubicAt, flatten, insideTest, isInside, outlinesBox } from './flatten.ts';
export {
  ellipseOutline,
  type Outline,
  PATH_LIMITS,
  type PathNode,
  parsePath,
  pathData,
  rectangleOutline,
} from './path.ts';
