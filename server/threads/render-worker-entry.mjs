import { ownCode } from './own-code.mjs';

await ownCode('render-worker');
