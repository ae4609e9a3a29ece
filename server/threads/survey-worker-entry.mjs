// A worker thread starts without the loader that the main thread registered, so it brings its own.
import { register } from 'tsx/esm/api';

register();
const { surveyAtOnce } = await import('./survey-worker.ts');
export default surveyAtOnce;
