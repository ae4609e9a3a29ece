export { closeLoop, closingLengths, type LoopWay } from './close-loop.ts';
export { closingWorlds, timesRuns, worldSpeed } from './closing-worlds.ts';
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
