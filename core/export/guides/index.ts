export { GUIDE_LAYER, guideFileName, guideOfFile, isGuideName } from './names.ts';
