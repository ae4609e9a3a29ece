export {
  type AlphaLevel,
  type AlphaMap,
  alphaMapOf,
  FINEST_ALPHA_PX,
  finestAlphaOf,
} from './alpha/alpha-map.ts';
export { largestScale, paintingNeeds } from './art-needs.ts';
export { type Cure, curesOf } from './cures.ts';
export { clearanceAcross, depthFromArt } from './depth-from-art.ts';
export { type EdgeGap, edgeGaps } from './edge-gaps.ts';
export {
  type Finding,
  type FindingOf,
  type Grade,
  SURVEY_CODES,
  type SurveyCode,
  type SurveyLimits,
  USUAL_LIMITS,
} from './finding.ts';
export { findingsOf, isLeftSo, openFindings } from './findings.ts';
export { strobingPxPerFrame } from './pace.ts';
export { csvOf, type PaintNeed, paintList, paintListCsv } from './paint-list.ts';
export { stripBeyond } from './pass/missing.ts';
export type { PlaneRows } from './rows.ts';
export { type AlphaSource, SET_UP_FRAME, type SurveyRows, SurveyRun, surveyRows } from './survey-run.ts';
