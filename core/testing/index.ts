export {
  artMap,
  borderPx,
  type DrawArt,
  drawByArea,
  drawByKernel,
  greyArt,
  type LineWeights,
  lineWeights,
  type Range,
  ringing,
  SIDE,
  stripeContrast,
  truckJump,
  zonePlateAlias,
} from './filter-measures.ts';
export { gltfReport } from './gltf.ts';
export { randomImage } from './images.ts';
export { testAnswer, testKernel, testLayer, testRenderer } from './kernel.ts';
export { landed, sceneBytes, thereAndBack } from './landing.ts';
export { asVersion5 } from './old-scenes.ts';
export { openRasterZip, stackXml } from './openraster.ts';
export { randomSteps, STEP_PLANES } from './random-edits.ts';
export {
  mountedOn,
  paintedLayer,
  testArt,
  testArtId,
  testPlane,
  testPlaneId,
  testScene,
  withCutEdges,
} from './scenes.ts';
export { TestShotServer } from './shot-server.ts';
export { levelsSource } from './stream-source.ts';
