export {
  artPart,
  type OpenedPackage,
  openPackage,
  type PackageFault,
  readPackage,
  SCENE_PART,
  type ShotPackage,
  sceneText,
  writePackage,
} from './package.ts';
