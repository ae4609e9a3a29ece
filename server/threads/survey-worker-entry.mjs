import { ownCode } from './own-code.mjs';

const { surveyAtOnce } = await ownCode('survey-worker');
export default surveyAtOnce;
