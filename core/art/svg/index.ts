export { checkSvg, type SvgFacts } from './check.ts';
