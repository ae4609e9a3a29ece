import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { Surveyed, SurveyTask } from './survey-task.ts';

/** How long the thread is kept with nothing to do, ms. */
const IDLE_MS = 30_000;

/** One thread that surveys shots one after another; it is started by the first. */
export class SurveyThread {
  private readonly pool = new Piscina<SurveyTask, Surveyed>({
    filename: fileURLToPath(new URL('./survey-worker-entry.mjs', import.meta.url)),
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: IDLE_MS,
    execArgv: [],
  });

  /** Rejects with an AbortError once `signal` is aborted, whatever it is at. */
  run(task: SurveyTask, signal?: AbortSignal): Promise<Surveyed> {
    return this.pool.run(task, signal ? { signal } : {});
  }

  close(): Promise<void> {
    return this.pool.destroy();
  }
}
