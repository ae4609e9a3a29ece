import { type UnzipFileInfo, unzipSync } from 'fflate';
import { fail, ok, type Result } from '../../units/index.ts';
import type { ArtFault } from '../index.ts';

/** Unpacked bytes of all parts together: past this a file is a bomb, not a painting. */
export const LARGEST_UNPACKED_BYTES = 2 * 2 ** 30;
const MOST_ENTRIES = 20_000;
const LONGEST_NAME = 1000;

class ZipFault extends Error {
  readonly code: ArtFault['code'];

  constructor(code: ArtFault['code'], detail: string) {
    super(detail);
    this.code = code;
  }
}

/** What painting programs and file managers leave beside the art. */
const isLitter = (name: string): boolean =>
  /(^|\/)(__MACOSX\/|\.[^/]*$|Thumbs\.db$|desktop\.ini$)/i.test(name);

const climbsOut = (name: string): boolean =>
  /^([/\\]|[a-z]:)/i.test(name) || name.split(/[/\\]/).includes('..') || name.includes('\0');

export interface UnzipBounds {
  /** Which entries are unpacked; others are passed over. */
  readonly wanted?: (name: string) => boolean;
  /** Most bytes that they may be together, unpacked. */
  readonly mostBytes?: number;
}

/**
 * The files of a zip archive by their paths. Refuses archives that unpack to too much (by what they say and by what
 * comes out), that hold too many entries, or whose entries climb out of their folder.
 */
export function unzipEntries(
  bytes: Uint8Array,
  { wanted = () => true, mostBytes = LARGEST_UNPACKED_BYTES }: UnzipBounds = {},
): Result<Record<string, Uint8Array>, ArtFault> {
  let [total, count] = [0, 0];
  const most = Math.min(mostBytes, LARGEST_UNPACKED_BYTES);
  const isWanted = ({ name, originalSize }: UnzipFileInfo): boolean => {
    count += 1;
    if (count > MOST_ENTRIES) throw new ZipFault('too-large', `it has over ${MOST_ENTRIES} entries`);
    if (name.length > LONGEST_NAME)
      throw new ZipFault('damaged', `an entry has a name of ${name.length} characters`);
    if (climbsOut(name))
      throw new ZipFault('damaged', `the entry “${name.slice(0, 80)}” climbs out of its folder`);
    if (name.endsWith('/') || isLitter(name) || !wanted(name)) return false;
    total += originalSize;
    if (total > most) throw new ZipFault('too-large', `it unpacks to over ${Math.round(most / 2 ** 20)} MiB`);
    return true;
  };
  try {
    return ok(unzipSync(bytes, { filter: isWanted }));
  } catch (error) {
    if (error instanceof ZipFault) return fail({ code: error.code, detail: error.message });
    if (!(error instanceof Error)) throw error;
    return fail({ code: 'damaged', detail: `the archive cannot be unpacked (${error.message})` });
  }
}
