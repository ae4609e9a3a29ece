import { type TakenLook, takenLookSchema } from '@keen-ridge/core/edits/look';
import { parseOrNull } from '../../api/client.ts';
import { readStored, store } from '../../api/storage/browser-storage.ts';

const KEY = 'keen-ridge/copied-look';

/** A look that was copied waits in the browser, so that it can be pasted into another shot. */
export const storeCopiedLook = (look: TakenLook): boolean => store(KEY, JSON.stringify(look));

export function readCopiedLook(): TakenLook | null {
  const read = takenLookSchema.safeParse(parseOrNull(readStored(KEY) ?? ''));
  return read.success ? read.data : null;
}
