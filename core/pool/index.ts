export {
  type FromRenderWorker,
  type RenderOptions,
  RenderPool,
  RenderPoolClosed,
  type RenderPort,
  type ToRenderWorker,
} from './pool.ts';
export { answerRenderMessage } from './worker-loop.ts';
