import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
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

export interface AppOptions {
  /** Whether the demo stands on the wall: only what is about it waits for its painting. */
  readonly demo: boolean;
  /** Whether people sign in. */
  readonly signIn: boolean;
}

/** The program as an artist starts it, on a database and a folder of its own; can be killed and started again. */
export class AppServer {
  url = '';
  /** All that it has printed, started again or not. */
  said = '';
  private child: ChildProcess | null = null;
  private readonly name = `e2e_${randomBytes(6).toString('hex')}`;
  private readonly folder = mkdtempSync(join(tmpdir(), 'keen-ridge-e2e-'));
  private port = 0;
  private readonly options: AppOptions;

  constructor(options: AppOptions) {
    this.options = options;
  }

  async create(): Promise<void> {
    await onServer(`create database ${this.name}`);
    await this.start();
  }

  async start(): Promise<void> {
    const env = {
      ...this.env(),
      PORT: String(this.port),
      KEEN_RIDGE_DEMO: this.options.demo ? 'on' : 'off',
      KEEN_RIDGE_SIGN_IN: this.options.signIn ? 'on' : 'off',
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
        this.said += String(chunk);
        const ready = /ready at (http:\/\/\S+)/.exec(said);
        if (ready?.[1]) resolve(ready[1]);
      };
      child.stdout?.on('data', listen);
      child.stderr?.on('data', listen);
      child.on('exit', (code, signal) => {
        this.said += `(ended with ${code ?? signal})\n`;
        reject(new Error(`The server ended with ${code ?? signal}:\n${said}`));
      });
    });
    this.port = Number(new URL(this.url).port);
  }

  private env(): NodeJS.ProcessEnv {
    const database = new URL(process.env.KEEN_RIDGE_TEST_DATABASE ?? '');
    database.pathname = `/${this.name}`;
    return { ...process.env, DATABASE_URL: database.href, KEEN_RIDGE_DATA: this.folder };
  }

  /** Calls `keen` about this server, with a line of standard input. */
  keen(args: readonly string[], line: string): void {
    const said = spawnSync(process.execPath, ['scripts/keen.mjs', ...args], {
      cwd: REPOSITORY,
      env: this.env(),
      input: `${line}\n`,
      encoding: 'utf8',
    });
    if (said.status !== 0) throw new Error(`keen ${args.join(' ')}: ${said.stderr}`);
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

/** A server for the spec files that want the same of it, and a page that may do nothing against its own policy. */
export const test = base.extend<object, { app: AppServer } & AppOptions>({
  page: async ({ page, app }, use, info) => {
    const refused: string[] = [];
    page.on('console', (message) => {
      if (/Content Security Policy/.test(message.text())) refused.push(message.text());
    });
    const before = app.said.length;
    await use(page);
    if (info.status !== info.expectedStatus)
      await info.attach('server', { body: app.said.slice(before), contentType: 'text/plain' });
    expect(refused).toEqual([]);
  },
  demo: [false, { scope: 'worker', option: true }],
  signIn: [false, { scope: 'worker', option: true }],
  app: [
    async ({ demo, signIn }, use) => {
      const app = new AppServer({ demo, signIn });
      await app.create();
      await use(app);
      await app.destroy();
    },
    { scope: 'worker', timeout: 180_000 },
  ],
});
export { expect };
