import { existsSync, readdirSync, rmSync } from 'node:fs';
import { hostname } from 'node:os';
import { join } from 'node:path';

const PART = /\.levels\.(?<host>.+)\.(?<pid>\d+)\.[a-z0-9]+\.part$/;

/** Where this process writes what is to be at `path` once it is whole. Its name says who writes. */
export const partOf = (path: string): string =>
  `${path}.${hostname()}.${process.pid}.${Math.random().toString(36).slice(2)}.part`;

/** Whether a process of this machine is there. Another may have taken the number of one that is gone. */
function isThere(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // One that belongs to somebody else is there.
    return !(error instanceof Error && 'code' in error && error.code === 'ESRCH');
  }
}

/**
 * Takes parts of files away that nobody will end: those of the process `of`, which is ending or has ended; without it
 * those of every process of this machine that is gone. What other machines write in the folder stays.
 */
export function dropDeadParts(folder: string, of?: number): void {
  for (const name of existsSync(folder) ? readdirSync(folder) : []) {
    const { host, pid } = PART.exec(name)?.groups ?? {};
    if (host !== hostname()) continue;
    if (of === undefined ? !isThere(Number(pid)) : Number(pid) === of)
      rmSync(join(folder, name), { force: true });
  }
}
