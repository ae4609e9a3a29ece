import type { Passing, PlaneId, Scene } from '../../scene/index.ts';
import { withFreePlanes } from '../planes/index.ts';

export const setPassing = (scene: Scene, ids: ReadonlySet<PlaneId>, passing: Passing | null): Scene =>
  withFreePlanes(scene, ids, (plane) => ({ ...plane, passing }));
