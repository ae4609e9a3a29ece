export { type FromRenderWorker, RenderPoolClosed, type RenderPort, type ToRenderWorker } from './crew.ts';
export { type RenderOptions, RenderPool } from './pool.ts';
export { answerRenderMessage } from './worker-loop.ts';
