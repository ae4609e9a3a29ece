import { readdirSync, readFileSync } from 'node:fs';

/** Resident memory of a process now, bytes; 0 once it has ended. Linux, proc(5). */
export function residentBytes(pid: number): number {
  try {
    const kib = /VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1];
    return Number(kib ?? 0) * 1024;
  } catch {
    // It ended while it was looked at.
    return 0;
  }
}

/** Processes that a process has started and that still run. */
export function childrenOf(pid: number): number[] {
  return readdirSync(`/proc/${pid}/task`).flatMap((task) => {
    try {
      const line = readFileSync(`/proc/${pid}/task/${task}/children`, 'utf8');
      return line.split(' ').filter(Boolean).map(Number);
    } catch {
      // The thread ended while it was looked at.
      return [];
    }
  });
}

/** The most that a process and its children hold while `work` runs, each at its own peak; looked at ten times a second. */
export async function peakOf<T>(
  pid: number,
  work: () => Promise<T>,
): Promise<{ result: T; ownBytes: number; childBytes: number }> {
  let [ownBytes, childBytes] = [0, 0];
  const look = setInterval(() => {
    ownBytes = Math.max(ownBytes, residentBytes(pid));
    for (const child of childrenOf(pid)) childBytes = Math.max(childBytes, residentBytes(child));
  }, 100);
  try {
    return { result: await work(), ownBytes, childBytes };
  } finally {
    clearInterval(look);
  }
}
