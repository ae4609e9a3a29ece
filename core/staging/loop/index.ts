export { canClose, type LoopItem, loopReport, runTurns, worstLoopError } from './loop-report.ts';
export { repeatPeriodSpx } from './repeat-period.ts';
