export { newPlane } from './new-plane.ts';
export {
  type ArtFacts,
  exposureIndexAt,
  factsAt,
  factsOf,
  factsOfShown,
  keptArts,
  type PaintedPath,
  type Shown,
  sceneArts,
  shownArts,
  shownAt,
  turnTicks,
} from './shown.ts';
