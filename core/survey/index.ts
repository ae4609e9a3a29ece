export {
  type AlphaLevel,
  type AlphaMap,
  alphaMapOf,
  FINEST_ALPHA_PX,
  finestAlphaOf,
} from './alpha/alpha-map.ts';
export type { Cure } from './cures/cure.ts';
export { type ProvenCure, provenCures } from './cures/prove.ts';
export { clearanceAcross, depthFromArt } from './depth-from-art.ts';
export {
  type Finding,
  type FindingOf,
  type Grade,
  SURVEY_CODES,
  type SurveyCode,
  type SurveyLimits,
  USUAL_LIMITS,
} from './finding.ts';
export { findingsOf, isLeftSo, openFindings, weightOf } from './findings.ts';
export { type GuideCanvas, guideCanvas } from './guide/guide-canvas.ts';
export { guidePlan } from './guide/guide-plan.ts';
export { type ArtSight, type FrameOnArt, SIGHTS, sightOf, sightSteps } from './guide/sight.ts';
export { cellsPath, framePath, framesOf } from './guide/sight-paths.ts';
export { largestScale } from './largest-scale.ts';
export { type EdgeGap, edgeGaps } from './margins/edge-gaps.ts';
export { frameOnArt } from './margins/margins.ts';
export { csvOf, type PaintNeed, paintList, paintListCsv } from './paint-list.ts';
export type { PlaneRows } from './rows.ts';
export { type AlphaSource, SET_UP_FRAME, type SurveyRows, SurveyRun, surveyRows } from './survey-run.ts';
export { bareBoxes, faultOn } from './where/fault-on-frame.ts';
