export { GUIDE_LAYER, type GuidePlace, guideFileName, guideOfFile, isGuideName } from './names.ts';
