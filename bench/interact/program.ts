import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const REPOSITORY = fileURLToPath(new URL('../..', import.meta.url));

/** The program as an artist starts it, on a folder of its own and without the demo. */
export interface Program {
  readonly url: string;
  readonly pid: number;
  /** Where its data lies: `levels/`, `running.json`, the database. */
  readonly folder: string;
  stop(): Promise<void>;
}

export async function startProgram(): Promise<Program> {
  const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-bench-'));
  // As root PostgreSQL runs as a user of its own, who must be able to pass.
  chmodSync(folder, 0o755);
  const child = spawn(process.execPath, ['scripts/start.mjs'], {
    cwd: REPOSITORY,
    env: { ...process.env, KEEN_RIDGE_DATA: folder, KEEN_RIDGE_DEMO: 'off', PORT: '0' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const url = await readyAt(child);
  return {
    url,
    pid: child.pid ?? 0,
    folder: join(folder, `app-${process.getuid?.() ?? 'user'}`),
    async stop() {
      const ended = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGINT');
      await ended;
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

function readyAt(child: ChildProcess): Promise<string> {
  let said = '';
  return new Promise((resolve, reject) => {
    const listen = (chunk: Buffer) => {
      said += String(chunk);
      const ready = /ready at (http:\/\/\S+)/.exec(said);
      if (ready?.[1]) resolve(ready[1]);
    };
    child.stdout?.on('data', listen);
    child.stderr?.on('data', listen);
    child.on('exit', (code) => reject(new Error(`The program ended with ${code}:\n${said}`)));
  });
}
