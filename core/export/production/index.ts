export { otioText } from './otio.ts';
export type { ShotEntry } from './shot-entry.ts';
export { shotsCsv } from './shots-csv.ts';
