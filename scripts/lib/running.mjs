import { readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

const fileOf = (folder) => join(folder, 'running.json');

/** What the program that runs on a folder has written of itself; null where there is nothing, or nothing whole. */
export function readRunning(folder) {
  try {
    const read = JSON.parse(readFileSync(fileOf(folder), 'utf8'));
    return typeof read?.url === 'string' && typeof read.instance === 'string' ? read : null;
  } catch (error) {
    if (error instanceof SyntaxError || error.code === 'ENOENT') return null;
    throw error;
  }
}

/** Written whole or not at all. */
export function writeRunning(folder, running) {
  const part = `${fileOf(folder)}.${process.pid}.part`;
  writeFileSync(part, JSON.stringify(running));
  renameSync(part, fileOf(folder));
}

export const removeRunning = (folder) => rmSync(fileOf(folder), { force: true });

/** How it is with a program that wrote this of itself: its health, or null where it does not answer. */
export async function healthOf({ url, instance }) {
  try {
    const answer = await fetch(new URL('/api/health', url), { signal: AbortSignal.timeout(5000) });
    const health = await answer.json();
    return health.instance === instance ? health : null;
  } catch {
    // Nobody listens there, or somebody else does.
    return null;
  }
}
