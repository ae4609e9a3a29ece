import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { availableParallelism } from 'node:os';
import { buildApp } from './app.ts';
import { openDatabase } from './db/connection/database.ts';
import { RevisionListener } from './db/connection/revision-listener.ts';
import { openRenderService } from './handoff/render-service.ts';
import { ArtDesk } from './imports/art-desk.ts';
import { WatchedFolder } from './imports/watched-folder.ts';
import { FrameRenderer } from './pictures/frame-renderer.ts';
import { Posters } from './pictures/posters.ts';
import { seedDemo } from './shots/seed-demo.ts';
import { lookAfterUnused } from './storage/retention.ts';
import { SurveyDesk } from './survey/survey-desk.ts';
import { threadPool } from './threads/thread-pool.ts';

export interface ServerOptions {
  readonly databaseUrl: string;
  /** Finished hand-offs lie here. */
  readonly dataFolder: string;
  /** A port that must be free; without one, the usual port or any free one. */
  readonly port?: number | undefined;
}

export interface RunningServer {
  readonly url: string;
  readonly instance: string;
  close(): Promise<void>;
}

/** Not one that browsers refuse to go to (WHATWG Fetch, section 2.9, bad ports), as they do 4190. */
const USUAL_PORT = 4180;

/** Migrates, seeds the demo once, and listens on loopback. */
export async function startServer({ databaseUrl, dataFolder, port }: ServerOptions): Promise<RunningServer> {
  const { db, close } = await openDatabase(databaseUrl);
  const renders = process.env.KEEN_RIDGE_RENDER !== 'off';
  const desk = new ArtDesk(db, dataFolder);
  desk.warm();
  const renderer = new FrameRenderer(threadPool, availableParallelism(), (id) => desk.levels.source(id));
  const service = await openRenderService(db, databaseUrl, dataFolder, renderer, { renders });
  if (process.env.KEEN_RIDGE_DEMO !== 'off') await seedDemo(db, desk.levels.files);
  const posters = new Posters(db, renderer);
  const survey = new SurveyDesk(db, renderer);
  const listener = new RevisionListener(databaseUrl);
  listener.start();
  const instance = randomUUID();
  const folder = process.env.KEEN_RIDGE_WATCH;
  const watched = folder ? new WatchedFolder(db, desk, folder) : null;
  const server = createServer(
    buildApp({ db, listener, posters, renderer, handoffs: service.desk, desk, survey, watched, instance }),
  );
  await listen(server, port);
  await service.desk.start();
  const closing = new AbortController();
  lookAfterUnused(db, desk.levels.files.folder, closing.signal);
  const renewing = desk.levels.renew(closing.signal).catch((error: unknown) => {
    // What is closed under it ends it too.
    if (!closing.signal.aborted) console.error('Levels of an older version were not all made again:', error);
  });
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    instance,
    close: async () => {
      closing.abort();
      server.close();
      server.closeAllConnections();
      // First of all what only time would end.
      desk.close();
      await watched?.close();
      await renewing;
      await survey.close();
      await listener.close();
      await service.close();
      await renderer.close();
      await close();
    },
  };
}

async function listen(server: Server, port: number | undefined): Promise<void> {
  for (const candidate of port === undefined ? [USUAL_PORT, 0] : [port]) {
    server.listen(candidate, '127.0.0.1');
    try {
      await once(server, 'listening');
      return;
    } catch (error) {
      const taken = error instanceof Error && 'code' in error && error.code === 'EADDRINUSE';
      if (!taken || port !== undefined) throw error;
    }
  }
}
