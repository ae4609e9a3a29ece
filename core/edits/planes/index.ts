export { ALIGNMENTS, type Alignment, alignPlanes, distributePlanes } from './arrange.ts';
export { pastePlanes, planesToCarry } from './between-shots.ts';
export { withSizeHeld } from './held-size.ts';
export { withSlidesHeld } from './held-slides.ts';
export { addCarrier, remountOrphans, setPlaneMount } from './mounts.ts';
export { tidyName, tidyNames, uniqueTidyNames } from './names.ts';
export { addPin, deletePin, movePin, renamePin, withPinsMapped, withPinsThat } from './pins.ts';
export {
  fillFrame,
  flipPlanes,
  frameToCarrier,
  movePlanesOnFrame,
  paintOnFrame,
  setPlaneAnchor,
  withoutRiders,
} from './place.ts';
export { addPlanes, insertPlanes, reorderPlanes } from './plane-list.ts';
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
} from './planes.ts';
export { boxesOnFrame, boxRound, sizePlanesOnFrame, turnPlanesOnFrame } from './together.ts';
export { withFreePlane, withFreePlanes, withPlane } from './with-planes.ts';
