import { randomBytes } from 'node:crypto';
import PgBoss from 'pg-boss';
import { logFault } from '../../faults/cause.ts';
import { alone } from './database.ts';

/**
 * Chunks of frames that wait to be rendered: a queue for each build, since frames that another one draws are not the
 * frames that are wanted.
 */
export const QUEUES = 'render-chunks';
const queueOf = (engine: string): string => `${QUEUES}-${engine.slice(0, 24)}`;
/** A chunk is a few seconds of work; one that takes longer is given to somebody else too, which does no harm. */
const EXPIRES_SECONDS = 180;
const RETRIES = 20;

export interface ChunkJob {
  readonly id: string;
  readonly chunkId: string;
}
type JobData = { readonly chunkId: string; readonly handoffId: string };

/** Priority of the chunks of a hand-off; one more is kept for chunks that were orphaned. */
export const priorityOf = (queueNumber: number): number => -2 * queueNumber;

/** A UUID of version 7 (RFC 9562, section 5.7) with a counter of 24 bits behind the time, so that later ones sort later. */
function orderedId(ms: number, index: number): string {
  const time = ms.toString(16).padStart(12, '0');
  const counter = index.toString(16).padStart(6, '0');
  const random = randomBytes(6).toString('hex');
  return `${time.slice(0, 8)}-${time.slice(8)}-7${counter.slice(0, 3)}-8${counter.slice(3)}-${random}`;
}

/** The queue of chunks in PostgreSQL, shared by all processes that render. */
export class JobQueue {
  private readonly boss: PgBoss;
  private readonly name: string;

  private constructor(boss: PgBoss, name: string) {
    this.boss = boss;
    this.name = name;
  }

  /** The queue of the build that `engine` names. */
  static async open(databaseUrl: string, engine: string): Promise<JobQueue> {
    const boss = new PgBoss({
      connectionString: databaseUrl,
      max: 4,
      maintenanceIntervalSeconds: 5,
      monitorStateIntervalSeconds: 60,
    });
    // A lost connection shows in the next call too; it must not end the process.
    boss.on('error', (error) => logFault('The queue of chunks', error));
    const name = queueOf(engine);
    // Each makes tables: two that do so at once lock each other out.
    await alone(databaseUrl, async () => {
      await boss.start();
      await boss.createQueue(name);
    });
    return new JobQueue(boss, name);
  }

  /** Lower `queueNumber` first, then in the order given; chunks that were `orphaned` by a dead worker before others. */
  async put(
    handoffId: string,
    chunkIds: readonly string[],
    queueNumber: number,
    { orphaned = false } = {},
  ): Promise<void> {
    const now = Date.now();
    await this.boss.insert(
      chunkIds.map((chunkId, i) => ({
        // Jobs of one priority are taken in order of time and then of id: a random id would shuffle them.
        id: orderedId(now, i),
        name: this.name,
        data: { chunkId, handoffId } satisfies JobData,
        priority: priorityOf(queueNumber) + (orphaned ? 1 : 0),
        expireInSeconds: EXPIRES_SECONDS,
        retryLimit: RETRIES,
        retryDelay: 0,
      })),
    );
  }

  async take(): Promise<ChunkJob | null> {
    const [job] = await this.boss.fetch<JobData>(this.name, { batchSize: 1, priority: true });
    return job ? { id: job.id, chunkId: job.data.chunkId } : null;
  }

  async done(job: ChunkJob): Promise<void> {
    await this.boss.complete(this.name, job.id);
  }

  /** Gives the job back, to be taken again by anyone. */
  async giveBack(job: ChunkJob): Promise<void> {
    await this.boss.fail(this.name, job.id);
  }

  async close(): Promise<void> {
    await this.boss.stop({ graceful: false, wait: true });
  }
}
