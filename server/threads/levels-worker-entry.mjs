// A worker thread starts without the loader that the main thread registered, so it brings its own.
import { register } from 'tsx/esm/api';

register();
const { writeLevels } = await import('./levels-worker.ts');
export default writeLevels;
