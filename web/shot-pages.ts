/** The page of a shot with all its steps: one file to wait for, and the next step is there at once. */
export { ArtPage } from './art/art-page.tsx';
export { CutPage } from './art/cut/cut-page.tsx';
export { ShapesPage } from './art/shapes/shapes-page.tsx';
export { HandoffPage } from './handoff/handoff-page.tsx';
export { LookPage } from './look/look-page.tsx';
export { MovePage } from './move/move-page.tsx';
export { ShotPage } from './shot/shot-page.tsx';
export { StagePage } from './stage/stage-page.tsx';
export { SurveyPage } from './survey/survey-page.tsx';
