import { randomUUID } from 'node:crypto';
import { once } from 'node:events';
import { readFileSync } from 'node:fs';
import { createServer, type RequestListener, type Server } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import { availableParallelism } from 'node:os';
import { buildApp } from './app.ts';
import { openDatabase } from './db/connection/database.ts';
import { RevisionListener } from './db/connection/revision-listener.ts';
import { logFault } from './faults/cause.ts';
import { openRenderService } from './handoff/render-service.ts';
import { ArtDesk } from './imports/art-desk.ts';
import { WatchedFolder } from './imports/watched-folder.ts';
import { Presence } from './people/presence.ts';
import { FrameRenderer } from './pictures/frame-renderer.ts';
import { Posters } from './pictures/posters.ts';
import { readSettings, type Settings } from './settings/settings.ts';
import { seedDemo } from './shots/seed-demo.ts';
import { lookAfterUnused } from './storage/retention.ts';
import { SurveyDesk } from './survey/survey-desk.ts';
import { threadPool } from './threads/thread-pool.ts';

export interface ServerOptions {
  readonly databaseUrl: string;
  /** Finished hand-offs lie here. */
  readonly dataFolder: string;
}

export interface RunningServer {
  readonly url: string;
  readonly instance: string;
  close(): Promise<void>;
}

/** Not one that browsers refuse to go to (WHATWG Fetch, section 2.9, bad ports), as they do 4190. */
const USUAL_PORT = 4180;

/** Migrates, seeds the demo once, and listens where the settings of the folder say. */
export async function startServer({ databaseUrl, dataFolder }: ServerOptions): Promise<RunningServer> {
  const settings = readSettings(dataFolder);
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
  const presence = new Presence(db, listener);
  listener.start();
  const instance = randomUUID();
  const folder = process.env.KEEN_RIDGE_WATCH;
  const watched = folder ? new WatchedFolder(db, desk, folder) : null;
  const desks = { handoffs: service.desk, desk, survey, watched };
  const server = serverFor(
    buildApp({ db, listener, presence, posters, renderer, ...desks, instance, settings }),
    settings,
  );
  // An archive may come for hours; what stops coming is cut by itself.
  server.requestTimeout = 0;
  server.headersTimeout = 20_000;
  // Whoever asks ends a connection that is of no more use: a proxy after 60 s (nginx, keepalive_timeout of an upstream).
  server.keepAliveTimeout = 75_000;
  await listen(server, settings);
  await service.desk.start();
  const closing = new AbortController();
  lookAfterUnused(db, desk.levels.files.folder, closing.signal);
  const renewing = desk.levels.renew(closing.signal).catch((error: unknown) => {
    // What is closed under it ends it too.
    if (!closing.signal.aborted) logFault('Levels of an older version were not all made again', error);
  });
  return {
    url: urlOf(settings, (server.address() as AddressInfo).port),
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
      presence.close();
      await listener.close();
      await service.close();
      await renderer.close();
      await close();
    },
  };
}

/** Where the server is reached from this machine. */
function urlOf({ host, tls }: Settings, port: number): string {
  // What listens everywhere is reached here by loopback.
  const here = host === '0.0.0.0' || host === '::' ? '127.0.0.1' : host;
  return `${tls ? 'https' : 'http'}://${here.includes(':') ? `[${here}]` : here}:${port}`;
}

const serverFor = (app: RequestListener, { tls }: Settings): Server =>
  tls
    ? createSecureServer(
        { cert: readFileSync(tls.cert), key: readFileSync(tls.key), minVersion: 'TLSv1.2' },
        app,
      )
    : createServer(app);

async function listen(server: Server, { host, port }: Settings): Promise<void> {
  for (const candidate of port === undefined ? [USUAL_PORT, 0] : [port]) {
    server.listen(candidate, host);
    try {
      await once(server, 'listening');
      return;
    } catch (error) {
      const taken = error instanceof Error && 'code' in error && error.code === 'EADDRINUSE';
      if (!taken || port !== undefined) throw error;
    }
  }
}
