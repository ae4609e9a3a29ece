export { unzipEntries } from './entries.ts';
