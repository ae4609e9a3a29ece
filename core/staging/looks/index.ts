export { depthOf, focusChannelAt, focusDepthAt } from './focus.ts';
export {
  cameraLookChannel,
  type GradeNow,
  gradeAt,
  gradeOf,
  isPlaneLook,
  lookInterpolation,
  PLANE_LOOKS,
  type PlaneLookChannel,
  planeLookChannel,
  type ShotLooks,
  shotLooksAt,
  USUAL_AIR_COLOUR,
} from './look-at.ts';
