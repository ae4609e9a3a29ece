import { rm, stat } from 'node:fs/promises';
import { settle } from '../storage/durable.ts';
import { told } from './told.ts';
import { UsageFault } from './usage-fault.ts';

/**
 * Lets `write` make a file, which gets its name when it is whole; a device or pipe is written to as it stands. Leaves
 * what was there as it was where that fails. Rejects with UsageFault where the file system refuses.
 */
export function writeWhole(
  path: string,
  said: string,
  write: (part: string) => Promise<void>,
): Promise<void> {
  return told(said, async () => {
    const there = await stat(path).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'ENOENT') return null;
      throw error;
    });
    if (there?.isDirectory()) throw new UsageFault(`${said}: it is a folder; name the file that it shall be`);
    if (there && !there.isFile()) return write(path);
    const part = `${path}.part`;
    try {
      await write(part);
      await settle(part, path);
    } catch (error) {
      await rm(part, { force: true });
      throw error;
    }
  });
}
