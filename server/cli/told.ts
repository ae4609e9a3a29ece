import { UsageFault } from './usage-fault.ts';

const WORDS: Readonly<Record<string, string>> = {
  ENOENT: 'there is no such file or folder',
  EISDIR: 'it is a folder',
  ENOTDIR: 'a part of the path is a file, not a folder',
  EEXIST: 'there is something of that name already',
  EACCES: 'it may not be touched',
  EPERM: 'it may not be touched',
  EROFS: 'it lies where nothing may be written',
  ENOSPC: 'the disk is full',
  EDQUOT: 'there is no room left for this user',
  ENAMETOOLONG: 'its name is too long',
  EMFILE: 'too many files are open',
};

/** Does something with a path; what the file system refuses becomes a UsageFault that names path and reason. */
export async function told<T>(path: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && typeof error.code === 'string')) throw error;
    if (!/^E[A-Z]+$/.test(error.code)) throw error;
    throw new UsageFault(`${path}: ${WORDS[error.code] ?? error.message}`);
  }
}
