import { mkdtempSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { pause } from './asking.ts';
import { type WorkReport, whileAtWork } from './at-work.ts';
import { House } from './house.ts';

const HOUR_MS = 3_600_000;
const CLOCK = pathToFileURL(fileURLToPath(new URL('./clock.mjs', import.meta.url))).href;

export interface ClockReport extends WorkReport {
  /** Hours by which the server's own clock went wrong, one after the other. */
  readonly wrongByHours: readonly number[];
}

/** While people work the clock of the server and its workers is set back by an hour, then forward by two, then right. */
export async function setClockBack(): Promise<ClockReport> {
  const folder = mkdtempSync(join(tmpdir(), 'keen-ridge-clock-'));
  const path = join(folder, 'wrong-by');
  // At once: whoever looks finds the old number or the new one, never an empty file.
  const set = (ms: number) => {
    writeFileSync(`${path}.new`, String(ms));
    renameSync(`${path}.new`, path);
  };
  set(0);
  const house = new House({ KEEN_RIDGE_FAULTY_CLOCK: path, NODE_OPTIONS: `--import=${CLOCK}` });
  try {
    await house.open();
    const report = await whileAtWork(house, async (unrefused) => {
      for (const ms of [-HOUR_MS, HOUR_MS, 0]) {
        set(ms);
        await unrefused(pause(4000));
      }
    });
    const heard = readFileSync(`${path}.heard`, 'utf8').trim().split('\n');
    const ofServer = heard
      .map((line) => line.split(' ').map(Number))
      .filter(([pid]) => pid === house.serverPid);
    return { ...report, wrongByHours: ofServer.map(([, seconds = 0]) => Math.round(seconds / 3600)) };
  } finally {
    await house.close();
    rmSync(folder, { recursive: true, force: true });
  }
}
