export { seededRandom } from '../units/index.ts';
export { randomImage } from './images.ts';
export { landed, thereAndBack } from './landing.ts';
export { asVersion5, type OldPlane } from './old-scenes.ts';
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
export { type TestOp, TestShotServer } from './shot-server.ts';
