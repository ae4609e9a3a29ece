import type { ImportedLayer } from '@keen-ridge/core/contract';
import { addPlanes, type Plane, planeFromLayer, planeIdSchema } from '@keen-ridge/core/document';
import { create } from 'zustand';
import { uploadArt } from '../api/upload.ts';
import type { Session } from '../state/session.ts';

export type FileState =
  | { readonly kind: 'waiting' }
  | { readonly kind: 'sending'; readonly share: number }
  | { readonly kind: 'read'; readonly layers: readonly ImportedLayer[]; readonly notKept: readonly string[] }
  | { readonly kind: 'failed'; readonly reason: string };

export interface ImportedFile {
  readonly name: string;
  readonly state: FileState;
}

interface ImportState {
  readonly files: readonly ImportedFile[];
  /** Stays open when something must be said: a file that failed, or what could not be kept. */
  readonly open: boolean;
  readonly running: boolean;
  readonly abort: AbortController | null;
}

const CLOSED: ImportState = { files: [], open: false, running: false, abort: null };
export const useImport = create<ImportState>(() => CLOSED);

const setFile = (index: number, state: FileState): void =>
  useImport.setState(({ files }) => ({
    files: files.map((file, i) => (i === index ? { ...file, state } : file)),
  }));

/**
 * Sends files one after another. When all could be read they become planes in one edit; when some could not, the
 * artist decides about the rest. Cancelled: nothing changes.
 */
export async function importFiles(session: Session, files: readonly File[]): Promise<void> {
  if (useImport.getState().running || files.length === 0) return;
  const abort = new AbortController();
  const sorted = [...files].sort((p, q) => p.name.localeCompare(q.name, 'en', { numeric: true }));
  const waiting = sorted.map(({ name }): ImportedFile => ({ name, state: { kind: 'waiting' } }));
  useImport.setState({ files: waiting, open: true, running: true, abort });
  for (const [index, file] of sorted.entries()) {
    try {
      const art = await uploadArt(file, (share) => setFile(index, { kind: 'sending', share }), abort.signal);
      setFile(index, { kind: 'read', layers: art.layers, notKept: art.notKept });
    } catch (error) {
      if (abort.signal.aborted) {
        useImport.setState(CLOSED);
        return;
      }
      setFile(index, { kind: 'failed', reason: error instanceof Error ? error.message : String(error) });
    }
  }
  useImport.setState({ running: false, abort: null });
  const states = useImport.getState().files.map(({ state }) => state);
  if (states.some(({ kind }) => kind === 'failed')) return;
  const lost = states.some((state) => state.kind === 'read' && state.notKept.length > 0);
  landFiles(session, lost);
}

/** Puts what was read on the stage as one edit: first file on top, each in the order and place it had. */
export function landFiles(session: Session, stayOpen = false): void {
  const files = useImport.getState().files;
  const planes = files.flatMap(({ state }): Plane[] =>
    state.kind === 'read'
      ? state.layers.map((layer) => planeFromLayer(planeIdSchema.parse(crypto.randomUUID()), layer))
      : [],
  );
  if (planes.length > 0) {
    const subject = planes.length === 1 ? (planes[0]?.name ?? '') : `${planes.length} planes`;
    session.commit('add-planes', subject, addPlanes(session.state.scene, planes));
    session.select([]);
  }
  useImport.setState(stayOpen ? { open: true } : CLOSED);
}

export function closeImport(): void {
  useImport.getState().abort?.abort(new DOMException('Cancelled', 'AbortError'));
  useImport.setState(CLOSED);
}
