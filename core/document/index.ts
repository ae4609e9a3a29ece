export { EDIT_ACTIONS, type EditAction } from './actions.ts';
export { cameraPoseAt, cameraValueAt, stageFrameOf } from './camera-at.ts';
export { CAMERA_CHANNELS, type CameraChannel, CHANNEL_KINDS, type ChannelKind } from './camera-channels.ts';
export {
  type CameraChange,
  deleteCameraKeys,
  type KeySelection,
  moveCameraKeys,
  setCamera,
  setCameraEase,
} from './edits/camera.ts';
export {
  addPlanes,
  type DepthChange,
  deletePlanes,
  nearestDepthSpx,
  renamePlane,
  reorderPlane,
  setPlaneDepth,
  setPlaneMount,
  setPlaneSpeed,
  setPlanesHidden,
  setPlanesOpacity,
  setPlaneTransform,
} from './edits/planes.ts';
export { setFrameSize, setRate, setShotLength } from './edits/shot-settings.ts';
export { sceneJsonSchema } from './json-schema.ts';
export { MIGRATIONS, type Migration, migrate } from './migrations.ts';
export {
  applyScenePatch,
  changeBetween,
  type Patch,
  type PatchFault,
  patchBetween,
  patchSchema,
  type SceneChange,
} from './patch.ts';
export { type PaintedLayer, planeFromLayer } from './place-art.ts';
export { firstFault, readScene, type SceneFault } from './read-scene.ts';
export {
  type ArtId,
  type ArtRef,
  artIdSchema,
  artRefSchema,
  easeSchema,
  frameSizeSchema,
  LIMITS,
  type NewScene,
  newScene,
  type Plane,
  type PlaneId,
  planeIdSchema,
  rateSchema,
  SCENE_VERSION,
  type Scene,
  sceneSchema,
} from './scene.ts';
