export {
  fieldAt,
  framePlanes,
  setCameraHere,
  sizeField,
  smoothZoomPan,
  swapEnds,
} from './fielding.ts';
export { movePathMark, type PathMark, pathMarks, pathOnFrame } from './path-on-frame.ts';
export { ride } from './rides.ts';
export { SIZINGS } from './sizing.ts';
export { bakeSway, setMove, usualSway } from './sway.ts';
export { bakeTrack, editTrack, makeTrack } from './tracks.ts';
