export { canClose, type LoopCost, type LoopItem, loopCost, loopReport, runTurns } from './loop-report.ts';
export { repeatPeriodSpx } from './repeat-period.ts';
