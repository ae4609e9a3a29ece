export { type PlanePicture, planOfPicture, shotPictures } from './pictures.ts';
export { METRES_PER_SPX } from './shot-poses.ts';
export { writeGltf } from './write-gltf.ts';
