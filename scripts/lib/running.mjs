import { readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import http from 'node:http';
import https from 'node:https';
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

/** A text from a server on this machine, whose certificate may be of its own making: nothing secret is sent. */
const textFrom = (url) =>
  new Promise((resolve, reject) => {
    const { get } = url.protocol === 'https:' ? https : http;
    const asked = get(url, { timeout: 5000, rejectUnauthorized: false }, (answer) => {
      let text = '';
      answer.setEncoding('utf8');
      answer.on('data', (part) => {
        text += part;
      });
      answer.on('end', () => resolve(text));
      answer.on('error', reject);
    });
    asked.on('timeout', () => asked.destroy(new Error('No answer')));
    asked.on('error', reject);
  });

/** How it is with a program that wrote this of itself: its health, or null where it does not answer. */
export async function healthOf({ url, instance }) {
  try {
    const health = JSON.parse(await textFrom(new URL('/api/health', url)));
    return health.instance === instance ? health : null;
  } catch {
    // Nobody listens there, or somebody else does.
    return null;
  }
}
