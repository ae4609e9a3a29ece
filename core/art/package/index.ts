export {
  artPart,
  type PackageFault,
  readPackage,
  SCENE_PART,
  type ShotPackage,
  writePackage,
} from './package.ts';
