export { type ArtRef, artRefSchema } from './art-ref.ts';
export { type CameraMove, STEPS } from './camera.ts';
export { type ChannelRecord, type ColourRecord, easeSchema } from './channel.ts';
export {
  type Content,
  CYCLES,
  type Cycle,
  contentSchema,
  type Exposure,
  type Origin,
  type Shape,
} from './content.ts';
export { firstFault, type SceneFault } from './fault.ts';
export {
  type ArtId,
  artIdSchema,
  type MarkerId,
  type PinId,
  type PlaneId,
  pinIdSchema,
  planeIdSchema,
  type SetId,
  setIdSchema,
} from './ids.ts';
export { sceneJsonSchema } from './json-schema.ts';
export { frameSizeSchema, LIMITS, rateSchema } from './limits.ts';
export { MIGRATIONS, type Migration, migrate, mountFrom2, planeTo5, transformFrom2 } from './migrations.ts';
export type { Mount } from './mount.ts';
export {
  type Flicker,
  PASSINGS,
  type Passing,
  type Pin,
  type Plane,
  planeSchema,
  type SetLink,
} from './plane.ts';
export {
  type CopyStroke,
  type CutRecipe,
  type CutStep,
  cutRecipeSchema,
  type SelectionStep,
} from './recipe.ts';
export { REPEATS, type Repeat, type Run } from './run.ts';
export {
  type Marker,
  type NewScene,
  newScene,
  orderFault,
  SCENE_VERSION,
  type Scene,
  sceneSchema,
} from './scene.ts';
