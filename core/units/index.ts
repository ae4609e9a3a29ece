export { assertNever } from './assert-never.ts';
export { type ExpressionContext, type ExpressionFault, parseExpression } from './expression.ts';
export { extentOf } from './extent.ts';
export { memo, memoLast } from './memo.ts';
export { seededRandom } from './random.ts';
export { parseRational, type Rational, rational, rationalText, rationalToNumber } from './rational.ts';
export { fail, ok, type Result } from './result.ts';
export { cleanName, jsonDepth, reasonOf, unstorablePath } from './text.ts';
export { NEAREST_DEPTH_FRACTION, SINGULAR } from './tolerance.ts';
