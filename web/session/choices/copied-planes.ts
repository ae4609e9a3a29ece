import { type Plane, planeSchema } from '@keen-ridge/core/scene';
import { z } from 'zod';
import { parseOrNull } from '../../api/client.ts';
import { readStored, store } from '../../api/storage/browser-storage.ts';

const copiedSchema = z.array(planeSchema).min(1).max(1000);
const KEY = 'keen-ridge/copied-planes';
const LAST = 'keen-ridge/copied-last';

/** What was copied last: Paste means that. */
export const COPIED = ['keys', 'planes'] as const;
export type CopiedKind = (typeof COPIED)[number];
export const noteCopied = (kind: CopiedKind): boolean => store(LAST, kind);
export const lastCopied = (): CopiedKind | null => COPIED.find((kind) => kind === readStored(LAST)) ?? null;

/** Planes that were copied wait in the browser, so that they can be pasted into another shot. False where they do not fit. */
export const storeCopiedPlanes = (planes: readonly Plane[]): boolean =>
  store(KEY, JSON.stringify(planes)) && noteCopied('planes');

export function readCopiedPlanes(): readonly Plane[] | null {
  const read = copiedSchema.safeParse(parseOrNull(readStored(KEY) ?? ''));
  return read.success ? read.data : null;
}
