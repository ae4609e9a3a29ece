export { randomImage } from './images.ts';
export { openRasterZip, stackXml } from './openraster.ts';
export { seededRandom } from './random.ts';
export {
  paintedLayer,
  testArt,
  testArtId,
  testPlane,
  testPlaneId,
  testScene,
  withCutEdges,
} from './scenes.ts';
