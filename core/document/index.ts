export { cameraPoseAt, distanceToPlane, stageFrameOf, steadyPoseAt } from './camera-at.ts';
export { CAMERA_CHANNELS, type CameraChannel, LENS_CHANNELS, POSE_CHANNELS } from './camera-channels.ts';
export {
  allChannels,
  type ChannelId,
  type ChannelName,
  type ChannelRef,
  channelAt,
  channelId,
  channelRef,
  interpolationOf,
  keyedChannels,
  mayOvershoot,
  PLANE_CHANNELS,
  shownScale,
  shownValueAt,
  TRACK_AXES,
  trackOf,
} from './channels.ts';
export { checkedAfter } from './checked-scene.ts';
export {
  type ArtFacts,
  exposureIndexAt,
  factsAt,
  factsOf,
  keptArts,
  type PaintedPath,
  type Shown,
  sceneArts,
  shownArts,
  shownAt,
} from './content.ts';
export { ALIGNMENTS, type Alignment, alignPlanes, distributePlanes } from './edits/arrange.ts';
export { isChannelLocked, isOnTrack, setCamera, setChannelValue } from './edits/camera.ts';
export { addCard, coverCard } from './edits/cards.ts';
export { closeLoop, closingLengths, type LoopWay } from './edits/close-loop.ts';
export { changeCut, cutPlane } from './edits/cut-plane.ts';
export {
  flattenDepths,
  nearestDepthSpx,
  reverseDepths,
  scaleDepths,
  setPlaneDepth,
  setPlanesDepth,
  spreadPlanes,
} from './edits/depths.ts';
export { framePlanes, SIZINGS, setCameraHere, sizeField, smoothZoomPan, swapEnds } from './edits/fielding.ts';
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
export { deleteMarker, setMarker } from './edits/markers.ts';
export { addCarrier, setPlaneMount } from './edits/mounts.ts';
export { tidyName, tidyNames, uniqueTidyNames } from './edits/names.ts';
export { applyNewVersion, type LayerLook, type LayerMatch, matchLayers } from './edits/new-version.ts';
export { setPassing } from './edits/passing.ts';
export {
  fillFrame,
  flipPlanes,
  frameToCarrier,
  movePlanesOnFrame,
  setPlaneAnchor,
  withoutRiders,
} from './edits/place.ts';
export { addPlanes, insertPlanes, reorderPlanes } from './edits/plane-list.ts';
export { keyPlanesOnFrame } from './edits/plane-moves.ts';
export {
  type CopyLook,
  copyOfPlane,
  deletePlanes,
  freeName,
  nudgePlanes,
  renameGroup,
  renamePlane,
  setPlaneContent,
  setPlanesGroup,
  setPlanesHidden,
  setPlanesLocked,
  setPlanesOpacity,
  setPlaneTransform,
} from './edits/planes.ts';
export { holdEnds, scaleShotLength, setRateKeepingSeconds } from './edits/retime.ts';
export { ride } from './edits/rides.ts';
export {
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
export { bakeTrack, editTrack, makeTrack } from './edits/tracks.ts';
export { sceneJsonSchema } from './json-schema.ts';
export { channelOf, keysOf, recordOf } from './key-records.ts';
export { canClose, type LoopItem, loopReport, worstLoopError } from './loop.ts';
export { markersOf } from './markers.ts';
export { crossingPx, depthToCross, type PointedAt, runBetweenSpots } from './measure.ts';
export { MIGRATIONS, migrate, mountFrom2, planeTo5, transformFrom2 } from './migrations.ts';
export { newPlane } from './new-plane.ts';
export { mergedOrder } from './order.ts';
export { movePathMark, type PathMark, pathMarks, pathOnFrame } from './path-on-frame.ts';
export { type PathOwner, pathPlaceAt, pathRefsOf, trackRefOf } from './path-owner.ts';
export {
  AS_PAINTED,
  FITS,
  type Fit,
  fitScale,
  type PaintedLayer,
  type PaintingPlace,
  planeFromLayer,
} from './place-art.ts';
export { isMoving, movedAt, type PlaneMove, posedPlane } from './plane-at.ts';
export { planeOf, planesOf, withEachPlane, withPlaneList } from './planes.ts';
export { readScene } from './read-scene.ts';
export { seenBox } from './seen-box.ts';
export { soundSceneSchema } from './sound-scene.ts';
export {
  repeatsAcross,
  repeatsDown,
  ridesOnCamera,
  stageFault,
  standingAt,
  standingsAt,
} from './standings.ts';
export { type Lens, lensAt, shownVeil, veilAt } from './veil.ts';
