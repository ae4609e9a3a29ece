export { sheetBox } from './chart.ts';
export type { Mark, Page, Paper } from './page.ts';
export { PAPERS } from './page.ts';
export { type SheetAsked, sheetPages } from './sheet-pages.ts';
export { sheetSvg } from './sheet-svg.ts';
