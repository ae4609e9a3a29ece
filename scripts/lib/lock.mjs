import { spawn } from 'node:child_process';
import { SetUpError } from './packages.mjs';

/**
 * Takes the operating system's lock on a file (flock of util-linux). Waits for it, or gives null where another process
 * has it. The lock is held by a helper that ends with this process, however that ends; `release` lets go of it before.
 */
export function holdLock(path, { wait }) {
  return new Promise((resolve, reject) => {
    const args = [...(wait ? [] : ['--nonblock']), '--exclusive', path, 'sh', '-c', 'echo held; exec cat'];
    // Its own group: Ctrl+C must not let go of the lock before what it guards has ended.
    const helper = spawn('flock', args, { stdio: ['pipe', 'pipe', 'pipe'], detached: true });
    let words = '';
    helper.stderr.on('data', (text) => {
      words += text;
    });
    helper.on('error', (error) =>
      reject(new SetUpError(`The command flock (package util-linux) cannot be run: ${error.message}`)),
    );
    helper.on('close', (code) => {
      if (code === 1 && !wait) resolve(null);
      else reject(new SetUpError(`${path} cannot be locked: ${words.trim() || `flock ended with ${code}`}`));
    });
    helper.stdin.on('error', () => {});
    helper.stdout.once('data', () => {
      helper.unref();
      for (const pipe of [helper.stdin, helper.stdout, helper.stderr]) pipe.unref();
      // Its end, not that of its pipes: nothing else keeps this process alive for those.
      const ended = new Promise((done) => helper.once('exit', done));
      resolve({
        release: async () => {
          // Waited for: without this the process would end, having nothing else to do.
          helper.ref();
          helper.stdin.end();
          await ended;
        },
      });
    });
  });
}

/** Does something while it holds the lock. Where the file may not be written there is nothing to guard against. */
export async function locked(path, work) {
  const lock = await holdLock(path, { wait: true }).catch((error) => {
    if (/permission denied|read-only/i.test(error.message)) return null;
    throw error;
  });
  try {
    return await work();
  } finally {
    await lock?.release();
  }
}
