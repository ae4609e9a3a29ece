import type { PlaneId, Scene } from '../../scene/index.ts';
import { planesOf } from '../../scene/records/index.ts';
import { pastePlanes } from '../planes/index.ts';

/** How the set-up of one shot is given to another: its planes in front of those that are there, or all of it instead. */
export const GIVEN_AS = ['planes', 'everything'] as const;
export type GivenAs = (typeof GIVEN_AS)[number];

/** A scene that has been given the set-up of another: its planes as they are staged, or all that it is. */
export const withSetUp = (
  scene: Scene,
  given: Scene,
  as: GivenAs,
  idOf: (index: number) => PlaneId,
): Scene => (as === 'everything' ? given : pastePlanes(scene, planesOf(given), idOf, null).scene);
