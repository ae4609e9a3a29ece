import { mkdirSync } from 'node:fs';
import { rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Handoff, HandoffRequest, HandoffState } from '@keen-ridge/core/contract';
import { and, asc, desc, eq, sql } from 'drizzle-orm';
import type { Database } from '../db/database.ts';
import { handoffs } from '../db/schema.ts';
import type { FrameRenderer } from '../services/frame-renderer.ts';
import { notFound, ProblemError } from '../services/problems.ts';
import { readShot, sceneOf } from '../services/shots.ts';
import { filmToolPresent } from './film.ts';
import { writeHandoff } from './write-handoff.ts';

const PROGRESS_EVERY_MS = 250;
const EXTENSIONS = { 'png-zip': 'zip', webm: 'webm' } as const;
type Row = typeof handoffs.$inferSelect;

/** A shot's name as the stem of a file name on any system. */
export const fileStem = (name: string): string =>
  name
    .normalize('NFC')
    .replace(/[^\p{L}\p{N}.-]+/gu, '_')
    .replace(/^[_.]+|[_.]+$/g, '')
    .slice(0, 80) || 'shot';

/** Renders queued hand-offs one after another. The queue lies in the database: a killed server takes it up again. */
export class HandoffRunner {
  private readonly db: Database;
  private readonly renderer: FrameRenderer;
  private readonly folder: string;
  private current: { id: string; abort: AbortController } | null = null;
  private loop: Promise<void> | null = null;
  private closed = false;

  constructor(db: Database, renderer: FrameRenderer, dataFolder: string) {
    this.db = db;
    this.renderer = renderer;
    this.folder = join(dataFolder, 'handoffs');
    mkdirSync(this.folder, { recursive: true });
  }

  /** Takes up what an earlier server left, then waits for more. */
  async start(): Promise<void> {
    await this.db
      .update(handoffs)
      .set({ progress: sql`jsonb_build_object('state', 'queued', 'total', ${handoffs.progress}->'total')` })
      .where(eq(sql`${handoffs.progress}->>'state'`, 'running'));
    this.wake();
  }

  async ask(shotId: string, request: HandoffRequest): Promise<string> {
    const shot = await readShot(this.db, shotId);
    if (request.lastFrame > shot.scene.lengthFrames) {
      throw new ProblemError(
        'bad-request',
        `The shot ends at frame ${shot.scene.lengthFrames}; frame ${request.lastFrame} was asked for.`,
      );
    }
    if (request.kind === 'webm' && !filmToolPresent()) {
      throw new ProblemError(
        'film-tool-missing',
        'Films need ffmpeg: sudo apt-get install ffmpeg, then try again.',
      );
    }
    const total = request.lastFrame - request.firstFrame + 1;
    const [row] = await this.db
      .insert(handoffs)
      .values({
        shotId,
        scene: shot.scene,
        shotName: shot.name,
        request,
        progress: { state: 'queued', total },
      })
      .returning({ id: handoffs.id });
    this.wake();
    return row!.id;
  }

  async list(shotId: string): Promise<Handoff[]> {
    const rows = await this.db
      .select()
      .from(handoffs)
      .where(eq(handoffs.shotId, shotId))
      .orderBy(desc(handoffs.madeAt))
      .limit(30);
    return rows.map(({ id, request, madeAt, progress }) => ({
      id,
      request,
      at: madeAt.toISOString(),
      progress,
    }));
  }

  async cancel(id: string): Promise<void> {
    const row = await this.row(id);
    if (this.current?.id === id) this.current.abort.abort();
    else if (row.progress.state === 'queued') await this.say(id, { state: 'cancelled' });
  }

  /** The finished file, with the name it should be saved under. */
  async file(id: string): Promise<{ path: string; fileName: string }> {
    const row = await this.row(id);
    if (row.progress.state !== 'done') throw new ProblemError('not-ready', 'This hand-off is not finished.');
    return { path: this.path(row), fileName: row.progress.fileName };
  }

  async close(): Promise<void> {
    this.closed = true;
    this.current?.abort.abort();
    await this.loop;
  }

  private path = ({ id, request }: Pick<Row, 'id' | 'request'>): string =>
    join(this.folder, `${id}.${EXTENSIONS[request.kind]}`);

  private async row(id: string): Promise<Row> {
    const [row] = await this.db.select().from(handoffs).where(eq(handoffs.id, id));
    if (!row) throw notFound('This hand-off');
    return row;
  }

  private wake(): void {
    if (this.closed) return;
    this.loop ??= this.drain().finally(() => {
      this.loop = null;
    });
  }

  private async drain(): Promise<void> {
    while (!this.closed) {
      const [next] = await this.db
        .select()
        .from(handoffs)
        .where(and(eq(sql`${handoffs.progress}->>'state'`, 'queued')))
        .orderBy(asc(handoffs.madeAt))
        .limit(1);
      if (!next) return;
      await this.run(next);
    }
  }

  private async run(row: Row): Promise<void> {
    const abort = new AbortController();
    this.current = { id: row.id, abort };
    const total = row.request.lastFrame - row.request.firstFrame + 1;
    const stem = fileStem(row.shotName);
    const path = this.path(row);
    const startedAt = new Date();
    let saidAt = 0;
    let saying = this.say(row.id, { state: 'running', done: 0, total });
    const onFrame = (done: number) => {
      if (Date.now() - saidAt < PROGRESS_EVERY_MS) return;
      saidAt = Date.now();
      saying = saying.then(() => this.say(row.id, { state: 'running', done, total }));
    };
    try {
      const { request } = row;
      // It may have been asked for by an older version of the program.
      const scene = sceneOf(row.scene);
      await writeHandoff(this.renderer, {
        scene,
        request,
        stem,
        path: `${path}.part`,
        startedAt,
        signal: abort.signal,
        onFrame,
      });
      await saying;
      await rename(`${path}.part`, path);
      const { size } = await stat(path);
      const fileName = `${stem}_${request.firstFrame}-${request.lastFrame}.${EXTENSIONS[request.kind]}`;
      const seconds = (Date.now() - startedAt.getTime()) / 1000;
      await this.say(row.id, { state: 'done', total, fileName, bytes: size, seconds });
    } catch (error) {
      await saying.catch((late) => console.error(late));
      await rm(`${path}.part`, { force: true });
      if (this.closed) return;
      if (!abort.signal.aborted) console.error(error);
      const reason = error instanceof Error ? error.message : String(error);
      await this.say(row.id, abort.signal.aborted ? { state: 'cancelled' } : { state: 'failed', reason });
    } finally {
      this.current = null;
    }
  }

  private async say(id: string, progress: HandoffState): Promise<void> {
    await this.db.update(handoffs).set({ progress }).where(eq(handoffs.id, id));
  }
}
