export { closeLoop, closingLengths, type LoopWay } from './close-loop.ts';
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
} from './runs.ts';
