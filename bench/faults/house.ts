import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
// @ts-expect-error: the scripts that run before anything is installed are plain JavaScript.
import { startCluster } from '../../scripts/lib/cluster.mjs';
import { pause } from './asking.ts';

const REPOSITORY = fileURLToPath(new URL('../..', import.meta.url));

interface Cluster {
  readonly url: string;
  readonly port: number;
  stop(): void;
}

interface Running {
  readonly child: ChildProcess;
  readonly said: string;
}

/** What can be killed. */
export const VICTIMS = ['server', 'worker', 'database', 'connection'] as const;
export type Victim = (typeof VICTIMS)[number];

/** The real program in a folder of its own: a PostgreSQL, a server and a render worker, each of which can be killed. */
export class House {
  url = '';
  readonly folder = mkdtempSync(join(tmpdir(), 'keen-ridge-faults-'));
  private cluster: Cluster | null = null;
  private server: Running | null = null;
  private worker: Running | null = null;
  private readonly more: Readonly<Record<string, string>>;

  /** `more`: of the environment of server and worker. */
  constructor(more: Readonly<Record<string, string>> = {}) {
    this.more = more;
  }

  async open(): Promise<void> {
    // As root PostgreSQL runs as another user, who must be able to get there.
    chmodSync(this.folder, 0o755);
    this.cluster = await startCluster(this.folder);
    await this.startServer();
    await this.startWorker();
  }

  get databaseUrl(): string {
    if (!this.cluster) throw new Error('The house is not open');
    return this.cluster.url;
  }

  /** Where the server keeps its files. */
  get data(): string {
    return join(this.folder, 'data', `app-${process.getuid?.() ?? 'user'}`);
  }

  get serverPid(): number {
    return this.server?.child.pid ?? 0;
  }

  /** As a power cut or a full memory would, and what whoever looks after the house does then: starts it again. */
  async kill(victim: Victim, random: () => number): Promise<void> {
    switch (victim) {
      case 'server':
        await ended(this.server);
        await this.startServer();
        return;
      case 'worker':
        await ended(this.worker);
        await this.startWorker();
        return;
      case 'database':
        process.kill(this.postmaster(), 'SIGKILL');
        this.cluster = await startCluster(this.folder, { port: this.cluster?.port });
        return;
      case 'connection': {
        // One process of PostgreSQL, of which all others are ended and begun again.
        const children = readFileSync(
          `/proc/${this.postmaster()}/task/${this.postmaster()}/children`,
          'utf8',
        );
        const pids = children.trim().split(/\s+/).map(Number).filter(Boolean);
        const pid = pids[Math.floor(random() * pids.length)];
        if (pid) killed(pid);
        // Where it was the one that recovers from the kill before, all of PostgreSQL ends (its postmaster.c).
        await pause(500);
        await this.mendDatabase();
      }
    }
  }

  /** Starts the database again where it has ended by itself, as who looks after the house does. */
  async mendDatabase(): Promise<void> {
    this.cluster = await startCluster(this.folder, { port: this.cluster?.port });
  }

  /** Ends everything that runs in it. */
  async end(): Promise<void> {
    await ended(this.worker);
    await ended(this.server);
    this.cluster?.stop();
  }

  async close(): Promise<void> {
    await this.end();
    rmSync(this.folder, { recursive: true, force: true });
  }

  private postmaster(): number {
    const path = join(this.folder, 'postgres', 'cluster', 'postmaster.pid');
    return Number(readFileSync(path, 'utf8').split('\n')[0]);
  }

  private async startServer(): Promise<void> {
    const port = this.url === '' ? '0' : new URL(this.url).port;
    this.server = await this.run('start.mjs', /ready at (http:\/\/\S+)/, { PORT: port, ...this.more });
    this.url = /ready at (http:\/\/\S+)/.exec(this.server.said)?.[1] ?? '';
  }

  private async startWorker(): Promise<void> {
    this.worker = await this.run('worker.mjs', /Rendering on/, this.more, ['--threads', '1']);
  }

  /** A killed process of the same folder may hold its locks for a moment, and a database may still be coming up. */
  private async run(
    script: string,
    ready: RegExp,
    more: Readonly<Record<string, string>>,
    args: readonly string[] = [],
  ): Promise<Running> {
    for (let tries = 0; ; tries++) {
      try {
        return await this.tryToRun(script, ready, more, args);
      } catch (error) {
        if (tries === 5) throw error;
        await pause(1000);
      }
    }
  }

  private tryToRun(
    script: string,
    ready: RegExp,
    more: Readonly<Record<string, string>>,
    args: readonly string[],
  ): Promise<Running> {
    const env = {
      ...process.env,
      DATABASE_URL: this.databaseUrl,
      KEEN_RIDGE_DATA: join(this.folder, 'data'),
      KEEN_RIDGE_DEMO: 'off',
      KEEN_RIDGE_LOG: 'silent',
      ...more,
    };
    const child = spawn(process.execPath, [join('scripts', script), ...args], {
      cwd: REPOSITORY,
      env,
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    let said = '';
    return new Promise((resolve, reject) => {
      const hear = (text: Buffer) => {
        said += String(text);
        if (ready.test(said)) resolve({ child, said });
      };
      child.stdout.on('data', hear);
      child.stderr.on('data', hear);
      child.on('exit', (code) => reject(new Error(`${script} ended with ${code}:\n${said}`)));
    });
  }
}

async function ended(running: Running | null): Promise<void> {
  const child = running?.child;
  if (!child || child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGKILL');
  await gone;
}

/** What has ended by itself meanwhile needs no killing. */
function killed(pid: number): void {
  try {
    process.kill(pid, 'SIGKILL');
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && error.code === 'ESRCH')) throw error;
  }
}
