export { cameraPoseAt, distanceToPlane, stageFrameOf, steadyPoseAt } from './camera-at.ts';
export { CAMERA_CHANNELS, type CameraChannel, LENS_CHANNELS, POSE_CHANNELS } from './camera-channels.ts';
export {
  allChannels,
  CHANNEL_KINDS,
  type ChannelId,
  type ChannelKind,
  type ChannelName,
  type ChannelRef,
  channelAt,
  channelId,
  channelRef,
  interpolationOf,
  keyedChannels,
  mayOvershoot,
  PLANE_CHANNELS,
  type PlaneChannel,
  shownScale,
  shownValueAt,
  TRACK_AXES,
  trackOf,
  withChannel,
  withTrack,
} from './channels.ts';
export { checkedAfter } from './checked-scene.ts';
export {
  type ArtFacts,
  exposureAt,
  exposureIndexAt,
  factsAt,
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
  isChannelLocked,
  isOnTrack,
  setCamera,
  setChannelValue,
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
export {
  fieldAt,
  framePlanes,
  SIZINGS,
  type Sizing,
  setCameraHere,
  sizeField,
  smoothZoomPan,
  swapEnds,
} from './edits/fielding.ts';
export {
  boundsOf,
  type CopiedKeys,
  clearChannel,
  copyKeys,
  deleteSelected,
  duplicateSelected,
  easeSelected,
  type KeySelection,
  keyAsItIs,
  moveSelected,
  pasteKeys,
  restCamera,
  reverseSelected,
  rollSelected,
  setChannelLocked,
  setChannelMuted,
  setSelectedValue,
  smoothSelected,
  stretchSelected,
} from './edits/keys.ts';
export { setAir, setFilter, setGrade } from './edits/looks.ts';
export { deleteMarker, setMarker, setPassing } from './edits/markers.ts';
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
export { keyPlanesOnFrame } from './edits/plane-moves.ts';
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
export { holdEnds, scaleShotLength, setRateKeepingSeconds } from './edits/retime.ts';
export { type Ridden, ride } from './edits/rides.ts';
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
export { bakeSway, setMove, usualSway } from './edits/sway.ts';
export {
  bakeTrack,
  editTrack,
  makeTrack,
  type PathOwner,
  pathPlaceAt,
  pathRefsOf,
  trackRefOf,
} from './edits/tracks.ts';
export { sceneJsonSchema } from './json-schema.ts';
export { channelOf, keysOf, recordOf } from './key-records.ts';
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
export { type ListedMarker, markersOf } from './markers.ts';
export { crossingPx, depthToCross, type PointedAt, runBetweenSpots } from './measure.ts';
export { MIGRATIONS, type Migration, migrate, mountFrom2, planeTo5, transformFrom2 } from './migrations.ts';
export { newPlane } from './new-plane.ts';
export { arranged, mergedOrder } from './order.ts';
export { movePathMark, type PathMark, pathMarks, pathOnFrame } from './path-on-frame.ts';
export {
  AS_PAINTED,
  FITS,
  type Fit,
  fitScale,
  type PaintedLayer,
  type PaintingPlace,
  planeFromLayer,
} from './place-art.ts';
export {
  isMoving,
  type Moved,
  movedAt,
  PLANE_MOVES,
  type PlaneMove,
  posedPlane,
  restOf,
} from './plane-at.ts';
export { planeOf, planesOf, withEachPlane, withPlaneList, withPlanes } from './planes.ts';
export { firstFault, readScene, type SceneFault } from './read-scene.ts';
export {
  type ArtId,
  type ArtRef,
  artIdSchema,
  artRefSchema,
  type CameraMove,
  type ChannelRecord,
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
  type Marker,
  type MarkerId,
  type Mount,
  type NewScene,
  newScene,
  type Origin,
  PASSINGS,
  type Passing,
  type Plane,
  type PlaneId,
  plainMove,
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
  STEPS,
  type Steps,
  sceneSchema,
} from './scene.ts';
export { soundSceneSchema } from './sound-scene.ts';
export {
  carrierOf,
  mountFault,
  repeatsAcross,
  repeatsDown,
  ridesOnCamera,
  stageFault,
  standingAt,
  standingsAt,
} from './standings.ts';
export { type Lens, lensAt, shownVeil, veilAt } from './veil.ts';
