export {
  easeShelfSchema,
  type KeptEase,
  newKeptEaseSchema,
  newTakeSchema,
  type Take,
  takeListSchema,
  takeSceneSchema,
  takeWordsSchema,
} from './takes.ts';
export {
  createdSchema,
  FRAME_PRESETS,
  type NewShot,
  newProductionSchema,
  newShotSchema,
  type Production,
  renameSchema,
  type ShotCard,
  wallSchema,
} from './wall.ts';
