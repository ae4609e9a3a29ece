import { ownCode } from './own-code.mjs';

const { writeLevels } = await ownCode('levels-worker');
export default writeLevels;
