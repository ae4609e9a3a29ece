export { seededRandom } from '../units/index.ts';
export { randomImage } from './images.ts';
export { openRasterZip, stackXml } from './openraster.ts';
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
