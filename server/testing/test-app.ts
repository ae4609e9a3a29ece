import { randomBytes } from 'node:crypto';
import { once } from 'node:events';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';
import { buildApp } from '../app.ts';
import { openDatabase } from '../db/connection/database.ts';
import type { Database } from '../db/connection/queryable.ts';
import { RevisionListener } from '../db/connection/revision-listener.ts';
import type { HandoffDesk } from '../handoff/handoff-desk.ts';
import { openRenderService } from '../handoff/render-service.ts';
import { ArtDesk } from '../imports/art-desk.ts';
import { WatchedFolder } from '../imports/watched-folder.ts';
import { Presence } from '../people/presence.ts';
import { FrameRenderer } from '../pictures/frame-renderer.ts';
import { Posters } from '../pictures/posters.ts';
import type { Settings } from '../settings/settings.ts';
import { SurveyDesk } from '../survey/survey-desk.ts';
import { threadPool } from '../threads/thread-pool.ts';

/** The server that the test command started. */
const serverUrl = (): string => {
  const url = process.env.KEEN_RIDGE_TEST_DATABASE;
  if (!url) throw new Error('These tests need a PostgreSQL: run npm test, or set KEEN_RIDGE_TEST_DATABASE');
  return url;
};

/** A fresh database on the test server, and how to drop it. */
export async function freshDatabase(): Promise<{ url: string; drop: () => Promise<void> }> {
  const name = `test_${randomBytes(6).toString('hex')}`;
  const run = async (sql: string) => {
    const client = new Client({ connectionString: serverUrl() });
    await client.connect();
    await client.query(sql);
    await client.end();
  };
  await run(`create database ${name}`);
  const url = new URL(serverUrl());
  url.pathname = `/${name}`;
  return { url: url.href, drop: () => run(`drop database ${name} with (force)`) };
}

export interface TestApp {
  readonly url: string;
  readonly db: Database;
  readonly databaseUrl: string;
  readonly handoffs: HandoffDesk;
  readonly folder: string;
  close(): Promise<void>;
}

export interface TestAppOptions {
  readonly renders?: boolean;
  /** Another server's database; it stays when this one is closed. */
  readonly databaseUrl?: string;
  /** A folder that is watched. */
  readonly watch?: string;
  readonly settings?: Partial<Settings>;
  readonly stalledMs?: number;
}

/** The whole application on a port and a folder of its own, without the demo. */
export async function startTestApp({
  renders = true,
  databaseUrl,
  watch,
  settings,
  stalledMs,
}: TestAppOptions = {}): Promise<TestApp> {
  const database = databaseUrl ? { url: databaseUrl, drop: async () => {} } : await freshDatabase();
  const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-'));
  const { db, close } = await openDatabase(database.url);
  const desk = new ArtDesk(db, folder);
  const renderer = new FrameRenderer(
    () => threadPool(2),
    2,
    (id) => desk.levels.source(id),
  );
  const service = await openRenderService(db, database.url, folder, renderer, { renders });
  const posters = new Posters(db, renderer);
  const survey = new SurveyDesk(db, renderer);
  const listener = new RevisionListener(database.url);
  const presence = new Presence(db, listener);
  listener.start();
  const watched = watch ? new WatchedFolder(db, desk, watch, 200) : null;
  const parts = { db, listener, presence, posters, renderer, handoffs: service.desk, desk, survey, watched };
  const known = { names: [], signIn: false, proxy: false, ...settings };
  const server = createServer(buildApp({ ...parts, instance: 'test', settings: known, stalledMs }));
  // A test that computes for seconds in this same process would find its connection closed as it asks again.
  server.keepAliveTimeout = 0;
  server.listen(0, '127.0.0.1');
  await once(server, 'listening');
  await service.desk.start();
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    db,
    databaseUrl: database.url,
    handoffs: service.desk,
    folder,
    close: async () => {
      server.close();
      server.closeAllConnections();
      desk.close();
      await watched?.close();
      await survey.close();
      presence.close();
      await listener.close();
      await service.close();
      await renderer.close();
      await close();
      await database.drop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
