export {
  artPart,
  type PackageFault,
  readPackage,
  SCENE_PART,
  type ShotPackage,
  sceneText,
  writePackage,
} from './package.ts';
