import { join } from 'node:path';
import { HANDOFF_FORMATS } from '@keen-ridge/core/export';
import type { StoredHandoff } from '../db/handoffs.ts';

/** Where a server keeps the files of its hand-offs. */
export const handoffFolder = (dataFolder: string): string => join(dataFolder, 'handoffs');

/** Where a hand-off's file lies, or its frames: with the server that wrote it, or else in `folder`. */
export const pathOfHandoff = (
  { id, request, deskFolder }: Pick<StoredHandoff, 'id' | 'request' | 'deskFolder'>,
  folder: string,
): string =>
  join(
    deskFolder ?? folder,
    request.target === 'folder' ? id : `${id}.${HANDOFF_FORMATS[request.kind].extension}`,
  );
