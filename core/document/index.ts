export { EDIT_ACTIONS, type EditAction } from './actions.ts';
export { cameraPoseAt, cameraValueAt, stageFrameOf } from './camera-at.ts';
export { CAMERA_CHANNELS, type CameraChannel, CHANNEL_KINDS, type ChannelKind } from './camera-channels.ts';
export {
  type ArtFacts,
  exposureAt,
  exposureIndexAt,
  factsOf,
  keptArts,
  type PaintedPath,
  type Shown,
  sceneArts,
  shownArts,
  shownAt,
  turnTicks,
} from './content.ts';
export { ALIGNMENTS, type Alignment, alignPlanes, distributePlanes } from './edits/arrange.ts';
export {
  type CameraChange,
  deleteCameraKeys,
  type KeySelection,
  moveCameraKeys,
  setCamera,
  setCameraEase,
} from './edits/camera.ts';
export { addCard, coverCard, seenBox } from './edits/cards.ts';
export { type CutResult, changeCut, cutPlane } from './edits/cut-plane.ts';
export {
  type DepthMode,
  flattenDepths,
  nearestDepthSpx,
  reverseDepths,
  scaleDepths,
  setPlaneDepth,
  setPlanesDepth,
  spreadPlanes,
} from './edits/depths.ts';
export { addCarrier, setPlaneMount } from './edits/mounts.ts';
export { tidyName, tidyNames, uniqueTidyNames } from './edits/names.ts';
export {
  applyNewVersion,
  type LayerLook,
  type LayerMatch,
  matchLayers,
  type NewVersion,
} from './edits/new-version.ts';
export {
  fillFrame,
  flipPlanes,
  frameToCarrier,
  movePlanesOnFrame,
  paintOnFrame,
  setPlaneAnchor,
  withoutRiders,
} from './edits/place.ts';
export {
  addPlanes,
  type CopyLook,
  copyOfPlane,
  deletePlanes,
  freeName,
  insertPlanes,
  nudgePlanes,
  renameGroup,
  renamePlane,
  reorderPlanes,
  setPlaneContent,
  setPlanesGroup,
  setPlanesHidden,
  setPlanesLocked,
  setPlanesOpacity,
  setPlaneTransform,
} from './edits/planes.ts';
export {
  type RunSpeed,
  type RunUnit,
  repeatPeriodSpx,
  runBetween,
  runSpeedAt,
  runWorld,
  setClosedSeam,
  setPlanesRepeat,
  setRunSpeed,
  setRunUnit,
  stopRuns,
  worldPlanes,
} from './edits/runs.ts';
export { setFrameSize, setRate, setShotLength } from './edits/shot-settings.ts';
export { sceneJsonSchema } from './json-schema.ts';
export {
  canClose,
  closeLoop,
  closingLengths,
  LOOP_WAYS,
  type LoopItem,
  type LoopWay,
  loopReport,
  worstLoopError,
} from './loop.ts';
export { crossingPx, depthToCross, type PointedAt, runBetweenSpots } from './measure.ts';
export { MIGRATIONS, type Migration, migrate, migratePatch } from './migrations.ts';
export { newPlane } from './new-plane.ts';
export {
  applyScenePatch,
  changeBetween,
  type Patch,
  type PatchFault,
  patchBetween,
  patchSchema,
  type SceneChange,
} from './patch.ts';
export {
  AS_PAINTED,
  FITS,
  type Fit,
  fitScale,
  type PaintedLayer,
  type PaintingPlace,
  planeFromLayer,
} from './place-art.ts';
export { firstFault, readScene, type SceneFault } from './read-scene.ts';
export {
  type ArtId,
  type ArtRef,
  artIdSchema,
  artRefSchema,
  type Content,
  type CopyStroke,
  type CutRecipe,
  CYCLES,
  type Cycle,
  contentSchema,
  cutRecipeSchema,
  type Exposure,
  easeSchema,
  exposureSchema,
  frameSizeSchema,
  LIMITS,
  type Made,
  type Mount,
  type NewScene,
  newScene,
  type Origin,
  type Plane,
  type PlaneId,
  planeIdSchema,
  REPEATS,
  type Repeat,
  type Run,
  rateSchema,
  SCENE_VERSION,
  type Scene,
  type SelectionMode,
  type SelectionStep,
  type Shape,
  sceneSchema,
} from './scene.ts';
export {
  carrierOf,
  mountFault,
  repeatsAcross,
  repeatsDown,
  stageFault,
  standingAt,
  standingsAt,
} from './standings.ts';
