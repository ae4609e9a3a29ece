import { type ChildProcess, spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { test as base, expect } from '@playwright/test';
import { Client } from 'pg';

const REPOSITORY = fileURLToPath(new URL('..', import.meta.url));

async function onServer(sql: string): Promise<void> {
  const url = process.env.KEEN_RIDGE_TEST_DATABASE;
  if (!url)
    throw new Error('The browser tests need a PostgreSQL: run npm test, or set KEEN_RIDGE_TEST_DATABASE');
  const client = new Client({ connectionString: url });
  await client.connect();
  await client.query(sql);
  await client.end();
}

/** The program as an artist starts it, on a database and a folder of its own; can be killed and started again. */
export class AppServer {
  url = '';
  private child: ChildProcess | null = null;
  private readonly name = `e2e_${randomBytes(6).toString('hex')}`;
  private readonly folder = mkdtempSync(join(tmpdir(), 'keen-ridge-e2e-'));
  private port = 0;
  private readonly demo: boolean;

  constructor(demo: boolean) {
    this.demo = demo;
  }

  async create(): Promise<void> {
    await onServer(`create database ${this.name}`);
    await this.start();
  }

  async start(): Promise<void> {
    const database = new URL(process.env.KEEN_RIDGE_TEST_DATABASE ?? '');
    database.pathname = `/${this.name}`;
    const env = {
      ...process.env,
      DATABASE_URL: database.href,
      KEEN_RIDGE_DATA: this.folder,
      PORT: String(this.port),
      KEEN_RIDGE_DEMO: this.demo ? 'on' : 'off',
    };
    const child = spawn(process.execPath, ['scripts/start.mjs'], {
      cwd: REPOSITORY,
      env,
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.child = child;
    let said = '';
    this.url = await new Promise<string>((resolve, reject) => {
      const listen = (chunk: Buffer) => {
        said += String(chunk);
        const ready = /ready at (http:\/\/\S+)/.exec(said);
        if (ready?.[1]) resolve(ready[1]);
      };
      child.stdout?.on('data', listen);
      child.stderr?.on('data', listen);
      child.on('exit', (code) => reject(new Error(`The server ended with ${code}:\n${said}`)));
    });
    this.port = Number(new URL(this.url).port);
  }

  /** Ends it as a power cut would. */
  async kill(): Promise<void> {
    if (!this.child || this.child.exitCode !== null || this.child.signalCode !== null) return;
    const ended = new Promise((resolve) => this.child?.once('exit', resolve));
    this.child?.kill('SIGKILL');
    await ended;
  }

  async destroy(): Promise<void> {
    await this.kill();
    await onServer(`drop database if exists ${this.name} with (force)`);
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** Each spec file has a server of its own. */
export const test = base.extend<object, { app: AppServer; demo: boolean }>({
  /** Whether the demo stands on the wall: only what is about it waits for its painting. */
  demo: [false, { scope: 'worker', option: true }],
  app: [
    async ({ demo }, use) => {
      const app = new AppServer(demo);
      await app.create();
      await use(app);
      await app.destroy();
    },
    { scope: 'worker', timeout: 180_000 },
  ],
});
export { expect };
