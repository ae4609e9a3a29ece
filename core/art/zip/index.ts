export { LARGEST_UNPACKED_BYTES, unzipEntries } from './entries.ts';
