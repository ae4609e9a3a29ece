export { randomImage } from './images.ts';
export { openRasterZip, stackXml } from './openraster.ts';
export { seededRandom } from './random.ts';
export { testArtId, testPlane, testPlaneId, testScene } from './scenes.ts';
