export {
  type FromRenderWorker,
  RenderPoolClosed,
  type RenderPort,
  RenderWorkerLost,
  type ToRenderWorker,
} from './crew.ts';
export { type RenderOptions, RenderPool } from './pool.ts';
export { answerRenderMessage } from './worker-loop.ts';
