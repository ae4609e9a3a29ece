import { spawnSync } from 'node:child_process';
import { closeSync, mkdirSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pause } from './asking.ts';
import { type WorkReport, whileAtWork } from './at-work.ts';
import { House } from './house.ts';

/** What happens to a disk: that of the server's files or that of the database is full, or can only be read. */
export const DISK_FAULTS = ['files full', 'database full', 'files read-only'] as const;
export type DiskFault = (typeof DISK_FAULTS)[number];

/** Small enough to be filled in no time, large enough for what people do in a minute. */
const FILES_MIB = 64;
const DATABASE_MIB = 512;
const MIB = Buffer.alloc(2 ** 20, 1);

function run(command: string, ...args: string[]): void {
  const { status, stderr } = spawnSync(command, args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(`${command} ${args.join(' ')}: ${stderr}`);
}

/** A disk of its own in memory (tmpfs), which only root may mount. */
class Disk {
  private readonly path: string;

  constructor(path: string, mib: number) {
    this.path = path;
    mkdirSync(path, { recursive: true });
    run('mount', '-t', 'tmpfs', '-o', `size=${mib}m,mode=755`, 'keen-ridge-faults', path);
  }

  private get ballast(): string {
    return join(this.path, 'ballast');
  }

  /** Writes until nothing more goes in. */
  fill(): void {
    const file = openSync(this.ballast, 'w');
    try {
      for (let part = MIB; part.length > 0; )
        try {
          writeSync(file, part);
        } catch (error) {
          if (!(error instanceof Error && 'code' in error && error.code === 'ENOSPC')) throw error;
          part = part.subarray(0, Math.floor(part.length / 2));
        }
    } finally {
      closeSync(file);
    }
  }

  makeRoom(): void {
    rmSync(this.ballast, { force: true });
  }

  remount(as: 'ro' | 'rw'): void {
    // What is open for writing now would forbid it: tried again until nothing is.
    for (let tries = 0; ; tries++) {
      try {
        run('mount', '-o', `remount,${as}`, this.path);
        return;
      } catch (error) {
        if (tries === 200) throw error;
      }
    }
  }

  close(): void {
    run('umount', '-l', this.path);
  }
}

/** Whether disks can be made and broken here: by root, and where root may mount. */
export function disksCanBeMade(): boolean {
  if (process.getuid?.() !== 0) return false;
  const path = mkdtempSync(join(tmpdir(), 'keen-ridge-disk-'));
  try {
    new Disk(path, 1).close();
    return true;
  } catch (error) {
    console.warn('No disk can be mounted here', error);
    return false;
  } finally {
    rmSync(path, { recursive: true, force: true });
  }
}

export interface DiskReport extends WorkReport {
  readonly rounds: Readonly<Record<DiskFault, number>>;
}

/** While people work a disk is full or cannot be written for some seconds, and then can again, `rounds` times each. */
export async function breakDisks(
  rounds: number,
  say: (line: string) => void = () => {},
  faults: readonly DiskFault[] = DISK_FAULTS,
): Promise<DiskReport> {
  const house = new House();
  const disks = {
    files: new Disk(join(house.folder, 'data'), FILES_MIB),
    database: new Disk(join(house.folder, 'postgres'), DATABASE_MIB),
  };
  const done: Record<DiskFault, number> = { 'files full': 0, 'database full': 0, 'files read-only': 0 };
  try {
    await house.open();
    const report = await whileAtWork(house, async (unrefused) => {
      for (let i = 0; i < rounds * faults.length; i++) {
        await unrefused(pause(2500));
        const fault = faults[i % faults.length]!;
        const disk = fault === 'database full' ? disks.database : disks.files;
        if (fault === 'files read-only') disk.remount('ro');
        else disk.fill();
        try {
          await unrefused(pause(4000));
        } finally {
          if (fault === 'files read-only') disk.remount('rw');
          else disk.makeRoom();
        }
        done[fault] += 1;
        // A database without room for its log ends itself; whoever has made room starts it again.
        await unrefused(house.mendDatabase());
        say(`${i + 1}/${rounds * faults.length}: ${fault}`);
      }
    });
    return { ...report, rounds: done };
  } finally {
    await house.end();
    disks.files.close();
    disks.database.close();
    rmSync(house.folder, { recursive: true, force: true });
  }
}
