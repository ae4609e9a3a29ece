export { checkSvg } from './check.ts';
