import type { BlendMode, Grade } from '../../paint/index.ts';
import type { Flicker, PlaneId, Scene } from '../../scene/index.ts';
import { withFreePlanes } from '../planes/index.ts';
import { gradeWith } from './at-rest.ts';

/** Changes parts of the grade of planes that are not locked; a grade that changes nothing is none. */
export const setGrade = (scene: Scene, ids: ReadonlySet<PlaneId>, part: Partial<Grade>): Scene =>
  withFreePlanes(scene, ids, (plane) => ({ ...plane, grade: gradeWith(plane.grade, part) }));

/** How planes that are not locked are laid over what is behind them. */
export const setBlendMode = (scene: Scene, ids: ReadonlySet<PlaneId>, mode: BlendMode): Scene =>
  withFreePlanes(scene, ids, ({ mode: _, ...plane }) => (mode === 'paint' ? plane : { ...plane, mode }));

/** The flicker of planes that are not locked; null for a steady light. */
export const setFlicker = (scene: Scene, ids: ReadonlySet<PlaneId>, flicker: Flicker | null): Scene =>
  withFreePlanes(scene, ids, ({ flicker: _, ...plane }) => (flicker ? { ...plane, flicker } : plane));
